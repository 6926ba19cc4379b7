import { hostAddresses } from '../../../../calendars'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('GET /api/desk/hosts/{id}/addresses', async (event, context, { workspaceId }) => {
  const addresses = await hostAddresses(context, workspaceId, idParam(event, 'id'))
  if (!addresses) throw notFound()
  return addresses
})
