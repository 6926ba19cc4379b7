import { listHours } from '../../../hosts-time'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('seeHours', async (_event, context, member) => listHours(context, member))
