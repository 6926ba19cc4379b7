import { getQuery } from 'h3'
import { loadMoving, viewMoveOpenings } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { check, idParam, notFound } from '../../../../http/problem'
import { deskMoveQuerySchema } from '../../../../http/requests'

export default defineDeskCall('GET /api/desk/bookings/{id}/openings', async (event, context, { workspaceId }) => {
  const { whole, ...span } = check(deskMoveQuerySchema, getQuery(event))
  const moving = await loadMoving(context.db, workspaceId, idParam(event, 'id'), whole === 'yes')
  if (!moving) throw notFound()
  return viewMoveOpenings(context, moving, span)
})
