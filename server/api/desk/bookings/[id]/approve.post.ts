import { reachesBooking } from '../../../../booking'
import { changeBooking } from '../../../../changes'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/bookings/{id}/approve', async (event, context, member) => {
  const id = idParam(event, 'id')
  if (!await reachesBooking(context.db, member, id)) throw notFound()
  const { kind } = await changeBooking(context, member.workspaceId, id, 'approved', { kind: 'member', name: member.name })
  if (kind !== 'changed') throw problem('notPossible', 'notWaiting', {})
  return { approved: true }
})
