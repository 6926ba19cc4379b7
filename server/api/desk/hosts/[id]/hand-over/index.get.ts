import { viewHandOver } from '../../../../../booking'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound } from '../../../../../http/problem'
import { reachesHost } from '../../../../../people'

export default defineDeskCall('GET /api/desk/hosts/{id}/hand-over', async (event, context, member) => {
  const id = idParam(event, 'id')
  const view = await reachesHost(context.db, member, id) ? await viewHandOver(context, member.workspaceId, id) : null
  if (!view) throw notFound()
  return view
})
