import { setResponseStatus } from 'h3'
import { disconnect } from '../../../../calendar-sync'
import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'

export default defineDeskCall('DELETE /api/desk/calendar-accounts/{id}', async (event, context, { workspaceId }) => {
  await disconnect(context, workspaceId, idParam(event, 'id'))
  setResponseStatus(event, 204)
  return null
})
