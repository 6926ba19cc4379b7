import { enforceRateLimit } from '../../../../../http/limits'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound } from '../../../../../http/problem'
import { throughService } from '../../../../../http/service-fault'
import { inviteUser } from '../../../../../rooms'

export default defineDeskCall('PUT /api/desk/connections/{id}/users/{host}', async (event, context, { workspaceId }) => {
  await enforceRateLimit(event, context, 'invitation', workspaceId)
  const invited = await throughService('The service', () => inviteUser(context, workspaceId, idParam(event, 'id'), idParam(event, 'host')))
  if (!invited) throw notFound()
  return invited
})
