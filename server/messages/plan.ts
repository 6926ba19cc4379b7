import { createHash } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import type { Occasion } from '../../core/messages/occasions'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, deliveries, guests, hosts, sessionHosts } from '../database/schema'
import { planJob } from '../jobs/queue'

/** Plans a message of one occasion to everyone it is for, or to some addresses only. Run it in the transaction of its cause. */
export async function planMessages(
  db: Database, context: Context, workspaceId: string, bookingId: string, occasion: Occasion, at: number,
  only?: ReadonlySet<string>,
): Promise<void> {
  const [booking] = await db.select().from(bookings).where(and(eq(bookings.workspaceId, workspaceId), eq(bookings.id, bookingId)))
  if (!booking) return
  const sitting = await db.select({ id: hosts.id, name: hosts.name, email: hosts.email }).from(sessionHosts)
    .innerJoin(hosts, and(eq(hosts.workspaceId, sessionHosts.workspaceId), eq(hosts.id, sessionHosts.hostId)))
    .where(and(eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.sessionId, booking.sessionId)))
  const brought = await db.select().from(guests).where(and(eq(guests.workspaceId, workspaceId), eq(guests.bookingId, bookingId)))
  const people = onePerAddress([
    { audience: 'client' as const, hostId: null, name: booking.clientName, address: booking.clientEmail },
    ...sitting.map(host => ({ audience: 'host' as const, hostId: host.id, name: host.name, address: host.email })),
    ...brought.map(guest => ({ audience: 'guest' as const, hostId: null, name: guest.name, address: guest.email })),
  ]).filter(person => !only || only.has(person.address))
  if (people.length === 0) return
  const domain = context.settings.mailFrom.split('@')[1] ?? 'localhost'
  const planned = await db.insert(deliveries)
    .values(people.map(person => ({
      workspaceId,
      bookingId,
      occasion,
      ...person,
      createdAt: dateOf(context.now()),
      messageId: `<${bookingId}.${occasion}.${person.hostId ?? person.audience}.${addressTag(person.address)}@${domain}>`,
    })))
    .onConflictDoNothing()
    .returning({ id: deliveries.id })
  for (const { id } of planned) await planJob(db, 'deliver', { workspaceId, id }, at)
}

/** A guest who is also the client or a host gets one mail, as that. */
function onePerAddress<Person extends { audience: string, address: string }>(people: readonly Person[]): Person[] {
  const others = new Set(people.filter(person => person.audience !== 'guest').map(person => person.address.toLowerCase()))
  const seen = new Set<string>()
  return people.filter(({ audience, address }) => {
    const key = address.toLowerCase()
    return audience !== 'guest' || (!others.has(key) && !seen.has(key) && seen.add(key))
  })
}

/** A stable tag of the whole address, so that no two people of one booking share a Message-ID. */
function addressTag(address: string): string {
  return createHash('sha256').update(address.toLowerCase()).digest('hex').slice(0, 24)
}
