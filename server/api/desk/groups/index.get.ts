import { listGroups } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('GET /api/desk/groups', (_event, context, member) => listGroups(context, member.workspaceId))
