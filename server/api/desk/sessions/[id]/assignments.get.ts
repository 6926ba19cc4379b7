import { reachesSession } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'
import { loadLedger } from '../../../../rotation'

export default defineDeskCall('GET /api/desk/sessions/{id}/assignments', async (event, { db }, member) => {
  const id = idParam(event, 'id')
  if (!await reachesSession(db, member, id)) throw notFound()
  return { version: 1 as const, entries: await loadLedger(db, member.workspaceId, { sessionId: id }) }
})
