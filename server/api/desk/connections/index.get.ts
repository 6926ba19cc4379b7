import { defineDeskCall } from '../../../http/member'
import { viewConnections } from '../../../people'

export default defineDeskCall('GET /api/desk/connections', (_event, context, member) => viewConnections(context, member))
