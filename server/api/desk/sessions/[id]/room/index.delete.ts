import { defineDeskCall } from '../../../../../http/member'
import { idParam, problem } from '../../../../../http/problem'
import { changeRoomByHand } from '../../../../../rooms'

export default defineDeskCall('DELETE /api/desk/sessions/{id}/room', async (event, context, { workspaceId, name }) => {
  const isDone = await changeRoomByHand(context, workspaceId, idParam(event, 'id'), { kind: 'roomRemoved' }, { kind: 'member', name })
  if (!isDone) throw problem('nothingToTry', 'noRoomToChange', {})
  return { removed: true }
})
