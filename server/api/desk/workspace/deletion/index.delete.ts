import { defineDeskCall } from '../../../../http/member'
import { keepWorkspace } from '../../../../people'

export default defineDeskCall('DELETE /api/desk/workspace/deletion', async (_event, context, { workspaceId }) => {
  await keepWorkspace(context, workspaceId)
  return { kept: true }
})
