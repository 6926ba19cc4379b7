import { viewBookable } from '../../booking'
import { defineDeskCall } from '../../http/member'

export default defineDeskCall('GET /api/desk/bookable', (_event, context, member) => viewBookable(context, member))
