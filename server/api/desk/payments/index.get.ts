import { defineDeskCall } from '../../../http/member'
import { viewPaymentAccounts } from '../../../payments'

export default defineDeskCall('GET /api/desk/payments', (_event, context, { workspaceId }) => viewPaymentAccounts(context, workspaceId))
