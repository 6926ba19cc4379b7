import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm'
import type { Recipient } from '../../core/booking/change-table'
import type { GuestChange } from '../../core/booking/guests'
import type { Database } from '../database/connection'
import { hosts, members } from '../database/schema'
import type { BookingDetails } from './load'

/** Somebody who is notified of a booking. */
export interface Person {
  audience: 'client' | 'guest' | 'host' | 'observer'
  hostId: string | null
  name: string
  address: string
  /** E.164; null where it is not known. */
  phone: string | null
}

type Host = Pick<BookingDetails['hosts'][number], 'id' | 'name' | 'email' | 'phone'>

const toPerson = ({ id, name, email, phone }: Host): Person => ({ audience: 'host', hostId: id, name, address: email, phone })

/** A member who is told of an event type's sessions without sitting in them. */
export type Observer = Pick<typeof members.$inferSelect, 'name' | 'email' | 'phone'>

/** A member's own number, or the one that stands with them as a host. */
export const memberPhone = sql<string | null>`coalesce(${members.phone}, ${hosts.phone})`

/** The observers of an event type who are members still. */
export async function loadObservers(db: Database, { workspace, eventType }: Pick<BookingDetails, 'workspace' | 'eventType'>): Promise<Observer[]> {
  // Settings that were saved before there were observers name none.
  const ids = (eventType.settings.observers as typeof eventType.settings.observers | undefined ?? []).map(observer => observer.id)
  if (ids.length === 0) return []
  const { name, email } = members
  return db.select({ name, email, phone: memberPhone }).from(members)
    .leftJoin(hosts, and(eq(hosts.workspaceId, members.workspaceId), eq(hosts.memberId, members.id)))
    .where(and(eq(members.workspaceId, workspace.id), inArray(members.id, ids), isNotNull(members.accountId)))
}

/** As far as it says whom a booking concerns. */
interface Booked {
  booking: Pick<BookingDetails['booking'], 'clientName' | 'clientEmail' | 'clientPhone'>
  hosts: readonly Host[]
  guests: readonly Pick<BookingDetails['guests'][number], 'name' | 'email'>[]
}

/** Who is there since a change and who no longer is, and who else is told. */
interface Others {
  reseated: { former: readonly Host[], newHostIds: readonly string[] } | null
  guests: GuestChange | null
  observers: readonly Observer[]
}

/** Who is notified of a booking: one mail an address; a guest who is also the client or a host is notified as that. */
export function recipientsOf(
  { booking, hosts, guests: brought }: Booked,
  groups: readonly Recipient[],
  { reseated, guests, observers }: Others = { reseated: null, guests: null, observers: [] },
): Person[] {
  const people: Person[] = []
  if (groups.includes('client')) people.push({ audience: 'client', hostId: null, name: booking.clientName, address: booking.clientEmail, phone: booking.clientPhone })
  if (groups.includes('hosts')) {
    people.push(...hosts.map(toPerson))
    const told = new Set(hosts.map(host => host.email.toLowerCase()))
    people.push(...observers.filter(({ email }) => !told.has(email.toLowerCase()))
      .map(({ name, email, phone }) => ({ audience: 'observer' as const, hostId: null, name, address: email, phone })))
  }
  if (groups.includes('newHosts')) people.push(...hosts.filter(host => reseated?.newHostIds.includes(host.id)).map(toPerson))
  if (groups.includes('formerHosts') && reseated) people.push(...reseated.former.map(toPerson))
  const seen = new Set([booking.clientEmail, ...hosts.map(host => host.email)].map(address => address.toLowerCase()))
  const told = [
    ...groups.includes('guests') ? brought : [], ...groups.includes('newGuests') ? guests?.added ?? [] : [],
    ...groups.includes('formerGuests') ? guests?.removed ?? [] : [],
  ]
  for (const { name, email } of told) {
    if (seen.has(email.toLowerCase())) continue
    seen.add(email.toLowerCase())
    people.push({ audience: 'guest', hostId: null, name, address: email, phone: null })
  }
  return people
}
