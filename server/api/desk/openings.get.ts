import { getQuery } from 'h3'
import { openingsForClient } from '../../booking'
import { defineDeskCall } from '../../http/member'
import { check, notFound } from '../../http/problem'
import { deskOpeningsQuerySchema } from '../../http/requests'

export default defineDeskCall('GET /api/desk/openings', async (event, context, member) => {
  const openings = await openingsForClient(context, member, check(deskOpeningsQuerySchema, getQuery(event)))
  if (!openings) throw notFound()
  return { openings }
})
