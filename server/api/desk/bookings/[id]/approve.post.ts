import { approveBooking } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { idParam, Problem } from '../../../../http/problem'

export default defineDeskCall('changeSessions', async (event, context, member) => {
  const approved = await approveBooking(context, member.workspaceId, idParam(event, 'id'), member.name)
  if (!approved) throw new Problem(409, 'Not possible', 'This booking no longer waits for approval.')
  return { approved }
})
