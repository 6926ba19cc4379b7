import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'
import { tryRoomNow } from '../../../../rooms'

export default defineDeskCall('POST /api/desk/sessions/{id}/room', async (event, context, member) => {
  const id = idParam(event, 'id')
  const tried = await tryRoomNow(context, member.workspaceId, id)
  if (!tried) throw problem('nothingToTry', 'roomNotFailing', {})
  return { tried }
})
