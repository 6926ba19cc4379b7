import { listEventTypes } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('GET /api/desk/event-types', async (_event, context, member) => listEventTypes(context, member))
