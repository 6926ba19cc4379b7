import { followEntry } from '../../../../../booking'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, problem } from '../../../../../http/problem'

export default defineDeskCall('POST /api/desk/sessions/{id}/entry/follow', async (event, context, { workspaceId, name }) => {
  if (!await followEntry(context, workspaceId, idParam(event, 'id'), { kind: 'member', name })) throw problem('nothingToTry', 'entryUnchanged', {})
  return { cancelled: true }
})
