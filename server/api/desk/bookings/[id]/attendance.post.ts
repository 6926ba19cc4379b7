import { changeBooking } from '../../../../changes'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'
import { attendanceSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/bookings/{id}/attendance', async (event, context, member) => {
  const { state } = await readBodyOf(event, attendanceSchema)
  const outcome = await changeBooking(context, member.workspaceId, idParam(event, 'id'), state, { kind: 'member', name: member.name })
  if (outcome.kind === 'refused' && outcome.details.booking.state !== state)
    throw problem('notPossible', outcome.refusal === 'notBegun' ? 'sessionNotBegun' : 'bookingEnded', {})
  return { state }
})
