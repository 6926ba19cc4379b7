import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound } from '../../../../../http/problem'
import { throughService } from '../../../../../http/service-fault'
import { withdrawUser } from '../../../../../rooms'

export default defineDeskCall('DELETE /api/desk/connections/{id}/users/{host}', async (event, context, { workspaceId }) => {
  const isDone = await throughService('The service', () => withdrawUser(context, workspaceId, idParam(event, 'id'), idParam(event, 'host')))
  if (!isDone) throw notFound()
  return { withdrawn: true }
})
