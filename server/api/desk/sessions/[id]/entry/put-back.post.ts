import { putBack } from '../../../../../calendar-sync'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, problem } from '../../../../../http/problem'

export default defineDeskCall('POST /api/desk/sessions/{id}/entry/put-back', async (event, context, { workspaceId }) => {
  if (!await putBack(context, workspaceId, idParam(event, 'id'))) throw problem('nothingToTry', 'entryUnchanged', {})
  return { planned: true }
})
