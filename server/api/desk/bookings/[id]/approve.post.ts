import { changeBooking } from '../../../../changes'
import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/bookings/{id}/approve', async (event, context, member) => {
  const id = idParam(event, 'id')
  const { kind } = await changeBooking(context, member.workspaceId, id, 'approved', { kind: 'member', name: member.name })
  if (kind !== 'changed') throw problem('notPossible', 'notWaiting', {})
  return { approved: true }
})
