import { changeBooking } from '../../../../changes'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'
import { closeSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/bookings/{id}/close', async (event, context, member) => {
  const id = idParam(event, 'id')
  const { state, reason } = await readBodyOf(event, closeSchema)
  const { kind } = await changeBooking(context, member.workspaceId, id, state, { kind: 'member', name: member.name }, reason || null)
  if (kind !== 'changed')
    throw problem('notPossible', 'bookingEnded', {})
  return { closed: true }
})
