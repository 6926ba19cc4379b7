import { listHours } from '../../../hosts-time'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('GET /api/desk/hours', async (_event, context, member) => listHours(context, member))
