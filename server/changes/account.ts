import { type AccountChangeKind, accountChangeTable } from '../../core/account/changes'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { changes } from '../database/schema'
import { planDeliveries } from './deliveries'

/** Records a change of a member's own account and plans the mail that follows from it. */
export async function applyAccountChange(
  context: Context, tx: Database, member: { workspaceId: string, id: string, name: string, email: string }, kind: AccountChangeKind, addressKnown: boolean,
): Promise<void> {
  const { workspaceId, id: memberId, name, email } = member
  const [row] = await tx.insert(changes)
    .values({ workspaceId, kind, memberId, actorKind: 'member', actorName: name, at: dateOf(context.now()) })
    .returning({ id: changes.id })
  const occasion = accountChangeTable[kind][addressKnown ? 'addressKnown' : 'addressNew']
  if (!row) throw new Error('The change was not saved')
  await planDeliveries(tx, context, { workspaceId, changeId: row.id, bookingId: null, memberId }, occasion, [{ audience: 'member', hostId: null, name, address: email }], context.now())
}
