import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import type { AccountOccasion, Channel, Occasion } from '../../core/messages/occasions'
import { type Context, dateOf } from '../context'
import type { Batch } from '../database/batch'
import { deliveries } from '../database/schema'

/** What a message tells of: a change, and the booking or the member it is about. */
export interface Cause {
  workspaceId: string
  /** Null where nothing has changed. */
  changeId: string | null
  bookingId: string | null
  /** The session, where the booking goes to another one by the same change. */
  sessionId: string | null
  memberId: string | null
  /** Of a reminder: which one, and the start it reminds of. */
  reminder?: string
  remindsOf?: Date
  /** Of a message of the workspace's own: which. */
  ownId?: string
}

interface Addressee {
  /** Mail, unless it says otherwise; then the address is a phone number. */
  channel?: Channel
  audience: 'client' | 'guest' | 'host' | 'observer' | 'member'
  hostId: string | null
  name: string
  address: string
}

/** Plans one message to each of some people. The same change never plans the same message to an address twice. */
export function planDeliveries(
  batch: Batch, context: Context, cause: Cause, occasion: Occasion | AccountOccasion, people: readonly Addressee[], at: number,
  priority?: number,
): void {
  const domain = context.settings.mailFrom.split('@')[1] ?? 'localhost'
  const planned = people.map(({ audience, hostId, name, address, channel = 'mail' as const }) => {
    const id = randomUUID()
    return {
      ...cause,
      audience, hostId, name, address, channel,
      id,
      occasion,
      createdAt: dateOf(context.now()),
      messageId: `<${cause.bookingId ?? cause.memberId}.${id}@${domain}>`,
    }
  })
  batch.insert(deliveries, planned, { onConflict: sql`do nothing` })
  batch.plan(...planned.map(({ id }) => ({ name: 'deliver' as const, about: { workspaceId: cause.workspaceId, id }, at, priority })))
}
