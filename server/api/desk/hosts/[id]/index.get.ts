import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'
import { viewHost } from '../../../../people'

export default defineDeskCall('GET /api/desk/hosts/{id}', async (event, context, member) => {
  const host = await viewHost(context, member, idParam(event, 'id'))
  if (!host) throw notFound()
  return host
})
