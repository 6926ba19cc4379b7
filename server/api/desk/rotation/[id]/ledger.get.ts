import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'
import { loadLedger } from '../../../../rotation'

export default defineDeskCall('GET /api/desk/rotation/{id}/ledger', async (event, { db }, member) =>
  ({ version: 1 as const, entries: await loadLedger(db, member.workspaceId, { poolId: idParam(event, 'id') }) }))
