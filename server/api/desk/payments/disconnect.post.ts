import { defineDeskCall } from '../../../http/member'
import { notFound } from '../../../http/problem'
import { disconnectPayments } from '../../../payments'

export default defineDeskCall('POST /api/desk/payments/disconnect', async (_event, context, { workspaceId }) => {
  if (!await disconnectPayments(context, workspaceId)) throw notFound()
  return { disconnected: true }
})
