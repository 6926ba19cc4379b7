import type { Recipient } from '../../core/booking/changes'
import type { BookingDetails } from './load'

/** Somebody who is notified of a booking. */
export interface Person {
  audience: 'client' | 'guest' | 'host'
  hostId: string | null
  name: string
  address: string
}

/** Who is notified of a booking: one mail an address; a guest who is also the client or a host is notified as that. */
export function recipientsOf(
  { booking, hosts, guests }: Pick<BookingDetails, 'booking' | 'hosts' | 'guests'>,
  groups: readonly Recipient[],
): Person[] {
  const people: Person[] = []
  if (groups.includes('client')) people.push({ audience: 'client', hostId: null, name: booking.clientName, address: booking.clientEmail })
  if (groups.includes('hosts'))
    people.push(...hosts.map(({ id, name, email }) => ({ audience: 'host' as const, hostId: id, name, address: email })))
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
