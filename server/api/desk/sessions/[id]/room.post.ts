import { reachesSession } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem } from '../../../../http/problem'
import { tryRoomNow } from '../../../../rooms'

export default defineDeskCall('POST /api/desk/sessions/{id}/room', async (event, context, member) => {
  const id = idParam(event, 'id')
  if (!await reachesSession(context.db, member, id)) throw notFound()
  const tried = await tryRoomNow(context, member.workspaceId, id)
  if (!tried) throw problem('nothingToTry', 'roomNotFailing', {})
  return { tried }
})
