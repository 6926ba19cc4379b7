import { randomUUID } from 'node:crypto'
import type { AccountOccasion, Occasion } from '../../core/messages/occasions'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { deliveries } from '../database/schema'
import { planJobs } from '../jobs/queue'

/** What a message tells of: a change, and the booking or the member it is about. */
export interface Cause {
  workspaceId: string
  changeId: string
  bookingId: string | null
  memberId: string | null
}

interface Addressee {
  audience: 'client' | 'guest' | 'host' | 'member'
  hostId: string | null
  name: string
  address: string
}

/** Plans one message to each of some people. The same change never plans the same message to an address twice. */
export async function planDeliveries(
  tx: Database, context: Context, cause: Cause, occasion: Occasion | AccountOccasion, people: readonly Addressee[], at: number,
): Promise<void> {
  if (people.length === 0) return
  const domain = context.settings.mailFrom.split('@')[1] ?? 'localhost'
  const planned = await tx.insert(deliveries).values(people.map((person) => {
    const id = randomUUID()
    return { ...cause, ...person, id, occasion, createdAt: dateOf(context.now()), messageId: `<${id}@${domain}>` }
  })).onConflictDoNothing().returning({ id: deliveries.id })
  await planJobs(tx, planned.map(({ id }) => ({ name: 'deliver', about: { workspaceId: cause.workspaceId, id }, at })))
}
