import { z } from 'zod'
import { closeBooking, reachesBooking } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, Problem, readBodyOf } from '../../../../http/problem'

export const closeSchema = z.strictObject({
  state: z.enum(['cancelled', 'declined']),
  reason: z.string().trim().max(500, 'At most 500 characters').optional(),
})

export default defineDeskCall('changeSessions', async (event, context, member) => {
  const id = idParam(event, 'id')
  if (!await reachesBooking(context.db, member, id)) throw notFound()
  const { state, reason } = await readBodyOf(event, closeSchema)
  const closed = await closeBooking(context, member.workspaceId, id, state, { by: 'member', name: member.name, reason: reason || null })
  if (!closed) throw new Problem(409, 'Not possible', 'This booking can no longer be changed in this way.')
  return { closed }
})
