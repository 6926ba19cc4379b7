import { defineDeskCall } from '../../../../http/member'
import { idParam, Problem } from '../../../../http/problem'
import { tryRoomNow } from '../../../../rooms'

export default defineDeskCall('changeSessions', async (event, context, member) => {
  const tried = await tryRoomNow(context, member.workspaceId, idParam(event, 'id'))
  if (!tried) throw new Problem(409, 'Nothing to try', 'This session’s room is not failing.')
  return { tried }
})
