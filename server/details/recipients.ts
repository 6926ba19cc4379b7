import type { Recipient } from '../../core/booking/changes'
import type { BookingDetails } from './load'

/** Somebody who is notified of a booking. */
export interface Person {
  audience: 'client' | 'guest' | 'host'
  hostId: string | null
  name: string
  address: string
}

type Host = Pick<BookingDetails['hosts'][number], 'id' | 'name' | 'email'>

const toPerson = ({ id, name, email }: Host): Person => ({ audience: 'host', hostId: id, name, address: email })

/** Who is notified of a booking: one mail an address; a guest who is also the client or a host is notified as that. */
export function recipientsOf(
  { booking, hosts, guests }: Pick<BookingDetails, 'booking' | 'hosts' | 'guests'>,
  groups: readonly Recipient[],
  handOver: { former: Host, newHostId: string } | null = null,
): Person[] {
  const people: Person[] = []
  if (groups.includes('client')) people.push({ audience: 'client', hostId: null, name: booking.clientName, address: booking.clientEmail })
  if (groups.includes('hosts')) people.push(...hosts.map(toPerson))
  if (groups.includes('newHost')) people.push(...hosts.filter(host => host.id === handOver?.newHostId).map(toPerson))
  if (groups.includes('formerHost') && handOver) people.push(toPerson(handOver.former))
  if (groups.includes('guests')) {
    const seen = new Set([booking.clientEmail, ...hosts.map(host => host.email)].map(address => address.toLowerCase()))
    for (const { name, email } of guests) {
      if (seen.has(email.toLowerCase())) continue
      seen.add(email.toLowerCase())
      people.push({ audience: 'guest', hostId: null, name, address: email })
    }
  }
  return people
}
