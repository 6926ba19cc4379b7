import { getQuery } from 'h3'
import { loadMoving, viewMoveOpenings } from '../../../../booking'
import { defineCall } from '../../../../http/define'
import { check, notFound } from '../../../../http/problem'
import { moveQuerySchema } from '../../../../http/requests'
import { bookingOfToken } from '../../../../http/token'

export default defineCall('GET /api/public/bookings/{token}/openings', async (event, context) => {
  const query = check(moveQuerySchema, getQuery(event))
  const { workspace, booking } = await bookingOfToken(event, context)
  const moving = await loadMoving(context.db, workspace.id, booking.id, false)
  if (!moving) throw notFound()
  return viewMoveOpenings(context, moving, query)
})
