import { defineDeskCall } from '../../../http/member'
import { notFound } from '../../../http/problem'
import { viewWorkspace } from '../../../workspace'

export default defineDeskCall('GET /api/desk/workspace', async (_event, context, member) => {
  const view = await viewWorkspace(context, member.workspaceId)
  if (!view) throw notFound()
  return view
})
