import { viewHandOver } from '../../../../../booking'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound } from '../../../../../http/problem'

export default defineDeskCall('GET /api/desk/hosts/{id}/hand-over', async (event, context, { workspaceId }) => {
  const view = await viewHandOver(context, workspaceId, idParam(event, 'id'))
  if (!view) throw notFound()
  return view
})
