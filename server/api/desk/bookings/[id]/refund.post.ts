import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'
import { retryRefund } from '../../../../payments'

export default defineDeskCall('POST /api/desk/bookings/{id}/refund', async (event, context, member) => {
  if (!await retryRefund(context, member.workspaceId, idParam(event, 'id'))) throw problem('notPossible', 'nothingToRefund', {})
  return { tried: true }
})
