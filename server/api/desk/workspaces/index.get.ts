import { defineDeskCall } from '../../../http/member'
import { listWorkspaces } from '../../../people'

export default defineDeskCall('GET /api/desk/workspaces', (_event, context, member) => listWorkspaces(context, member))
