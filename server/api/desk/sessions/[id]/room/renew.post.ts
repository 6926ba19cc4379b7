import { readBodyOf } from '../../../../../http/body'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, problem } from '../../../../../http/problem'
import { renewedRoomSchema } from '../../../../../http/requests'
import { changeRoomByHand } from '../../../../../rooms'

export default defineDeskCall('POST /api/desk/sessions/{id}/room/renew', async (event, context, { workspaceId, name }) => {
  const { way } = await readBodyOf(event, renewedRoomSchema)
  const isDone = await changeRoomByHand(context, workspaceId, idParam(event, 'id'), { kind: 'roomRenewed', way }, { kind: 'member', name })
  if (!isDone) throw problem('nothingToTry', 'noRoomToChange', {})
  return { planned: true }
})
