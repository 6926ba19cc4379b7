import { defineDeskCall } from '../../../../../http/member'
import { idParam, problem } from '../../../../../http/problem'
import { changeRoomByHand } from '../../../../../rooms'

export default defineDeskCall('POST /api/desk/sessions/{id}/room/renew', async (event, context, { workspaceId, name }) => {
  const by = { kind: 'member' as const, name }
  const isDone = await changeRoomByHand(context, workspaceId, idParam(event, 'id'), { kind: 'roomRenewed' }, by)
  if (!isDone) throw problem('nothingToTry', 'noRoomToChange', {})
  return { planned: true }
})
