import { viewHours } from '../../../../hosts-time'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('GET /api/desk/hours/{id}', async (event, context, member) => {
  const view = await viewHours(context, member, idParam(event, 'id'))
  if (!view) throw notFound()
  return view
})
