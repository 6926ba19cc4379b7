import { randomUUID } from 'node:crypto'
import { type AccountChangeKind, accountChangeTable } from '../../core/account/changes'
import { type Context, dateOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { changes } from '../database/schema'
import { planDeliveries } from './deliveries'

/** Records a change of a member's own account and plans the mail that follows from it. */
export async function applyAccountChange(
  context: Context,
  tx: Database,
  member: { workspaceId: string, id: string, name: string, email: string },
  kind: AccountChangeKind,
  addressKnown: boolean,
  /** Who did it, where it was not the member. */
  actorName = member.name,
): Promise<void> {
  const { workspaceId, id: memberId, name, email } = member
  const changeId = randomUUID()
  const batch = new Batch()
  batch.insert(changes, [{ workspaceId, id: changeId, kind, memberId, actorKind: 'member', actorName, at: dateOf(context.now()) }])
  const occasion = accountChangeTable[kind][addressKnown ? 'addressKnown' : 'addressNew']
  planDeliveries(
    batch,
    context,
    { workspaceId, changeId, bookingId: null, sessionId: null, memberId },
    occasion,
    [{ audience: 'member', hostId: null, name, address: email }],
    context.now(),
  )
  await batch.write(tx)
}
