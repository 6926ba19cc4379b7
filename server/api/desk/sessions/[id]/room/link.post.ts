import { givenLinkSchema } from '../../../../../../core/rooms/ways'
import { readBodyOf } from '../../../../../http/body'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, problem } from '../../../../../http/problem'
import { changeRoomByHand } from '../../../../../rooms'

export default defineDeskCall('POST /api/desk/sessions/{id}/room/link', async (event, context, { workspaceId, name }) => {
  const { link } = await readBodyOf(event, givenLinkSchema)
  const by = { kind: 'member' as const, name }
  const isDone = await changeRoomByHand(context, workspaceId, idParam(event, 'id'), { kind: 'roomGiven', link }, by)
  if (!isDone) throw problem('nothingToTry', 'noRoomToChange', {})
  return { given: true }
})
