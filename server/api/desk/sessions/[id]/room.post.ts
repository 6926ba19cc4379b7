import { reachesSession } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, Problem } from '../../../../http/problem'
import { tryRoomNow } from '../../../../rooms'

export default defineDeskCall('POST /api/desk/sessions/{id}/room', async (event, context, member) => {
  const id = idParam(event, 'id')
  if (!await reachesSession(context.db, member, id)) throw notFound()
  const tried = await tryRoomNow(context, member.workspaceId, id)
  if (!tried) throw new Problem('nothingToTry', 'This session’s room is not failing.')
  return { tried }
})
