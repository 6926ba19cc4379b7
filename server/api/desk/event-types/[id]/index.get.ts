import { viewBench } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('GET /api/desk/event-types/{id}', async (event, context, member) => {
  const bench = await viewBench(context, member, idParam(event, 'id'))
  if (!bench) throw notFound()
  return bench
})
