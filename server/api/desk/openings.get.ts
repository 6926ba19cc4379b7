import { getQuery } from 'h3'
import { findBookable } from '../../booking'
import { defineDeskCall } from '../../http/member'
import { answerOpenings } from '../../http/openings'
import { check, notFound } from '../../http/problem'
import { deskOpeningsQuerySchema } from '../../http/requests'

export default defineDeskCall('GET /api/desk/openings', async (event, context, member) => {
  const query = check(deskOpeningsQuerySchema, getQuery(event))
  const found = await findBookable(context, member, query)
  if (!found) throw notFound()
  return answerOpenings(context, { ...found, query, isPublished: !found.eventType.oneOff })
})
