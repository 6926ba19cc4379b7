import { approveBooking, reachesBooking } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, Problem } from '../../../../http/problem'

export default defineDeskCall('changeSessions', async (event, context, member) => {
  const id = idParam(event, 'id')
  if (!await reachesBooking(context.db, member, id)) throw notFound()
  const approved = await approveBooking(context, member.workspaceId, id, member.name)
  if (!approved) throw new Problem(409, 'Not possible', 'This booking no longer waits for approval, or its session is over.')
  return { approved }
})
