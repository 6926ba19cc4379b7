import { listEventTypeNames } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('GET /api/desk/event-types/names', (_event, { db }, { workspaceId }) => listEventTypeNames(db, workspaceId))
