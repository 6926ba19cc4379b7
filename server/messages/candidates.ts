import { sql } from 'drizzle-orm'
import type { Person } from '../details'

/** People of a booking as one row of a query has them, for messages that are planned by the clock. */

export interface Candidate extends Record<string, unknown> {
  workspaceId: string
  bookingId: string
  clientName: string
  clientEmail: string
  clientPhone: string | null
  hosts: { id: string, name: string, email: string, phone: string | null }[]
  guests: { name: string, email: string }[]
  /** Addresses and numbers that want no reminders, in small letters. */
  unreminded: string[]
}

/** The columns of a candidate, over a booking `b` and its session `s`. */
export const candidateColumns = sql.raw(`b.workspace_id as "workspaceId", b.id as "bookingId", b.client_name as "clientName", b.client_email as "clientEmail", b.client_phone as "clientPhone",
  coalesce((select json_agg(json_build_object('id', h.id, 'name', h.name, 'email', h.email, 'phone', h.phone)) from session_hosts sh
    join hosts h on h.workspace_id = sh.workspace_id and h.id = sh.host_id
    where sh.workspace_id = s.workspace_id and sh.session_id = s.id), '[]') as hosts,
  coalesce((select json_agg(json_build_object('name', g.name, 'email', g.email)) from guests g
    where g.workspace_id = b.workspace_id and g.booking_id = b.id), '[]') as guests,
  array(select u.address from unreminded u where u.workspace_id = b.workspace_id and u.address = any(
    array(select lower(g.email) from guests g where g.workspace_id = b.workspace_id and g.booking_id = b.id) || lower(b.client_email) || coalesce(b.client_phone, '')
  )) as unreminded`)

/** A candidate as those who are told of a booking are found from it. */
export function bookedOf({ clientName, clientEmail, clientPhone, hosts, guests }: Candidate) {
  return { booking: { clientName, clientEmail, clientPhone }, hosts, guests }
}

/** Of some people those who have not ended reminders. */
export function wanting(people: readonly Person[], { unreminded }: Pick<Candidate, 'unreminded'>): Person[] {
  return people.filter(({ audience, address }) => audience === 'host' || audience === 'observer' || !unreminded.includes(address.toLowerCase()))
}
