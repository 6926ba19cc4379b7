import { runJobNow } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { notFound, param } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/jobs/{id}/run', async (event, context, member) => {
  const id = param(event, 'id')
  if (!/^\d{1,15}$/.test(id) || !await runJobNow(context, member.workspaceId, id)) throw notFound()
  return { planned: true }
})
