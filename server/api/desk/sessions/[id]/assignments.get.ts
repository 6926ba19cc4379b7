import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'
import { loadLedger } from '../../../../rotation'

export default defineDeskCall('GET /api/desk/sessions/{id}/assignments', async (event, { db }, member) => {
  const id = idParam(event, 'id')
  return { version: 1 as const, entries: await loadLedger(db, member.workspaceId, { sessionId: id }) }
})
