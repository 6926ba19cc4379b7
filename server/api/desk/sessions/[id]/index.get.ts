import { viewSession } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('GET /api/desk/sessions/{id}', async (event, context, member) => {
  const session = await viewSession(context, member, idParam(event, 'id'))
  if (!session) throw notFound()
  return session
})
