import { defineDeskCall } from '../../../../../http/member'
import { idParam } from '../../../../../http/problem'
import { listRoomWays } from '../../../../../rooms'

export default defineDeskCall('GET /api/desk/sessions/{id}/room/ways', (event, context, { workspaceId }) =>
  listRoomWays(context, workspaceId, idParam(event, 'id')))
