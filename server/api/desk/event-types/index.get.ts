import { listEventTypes } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('seeEventTypes', async (_event, context, member) => listEventTypes(context, member.workspaceId))
