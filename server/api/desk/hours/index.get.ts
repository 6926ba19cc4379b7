import { listHours } from '../../../hours'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('seeHours', async (_event, context, member) => listHours(context, member))
