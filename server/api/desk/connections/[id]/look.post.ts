import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'
import { lookAtVideoAccount } from '../../../../rooms'

export default defineDeskCall('POST /api/desk/connections/{id}/look', async (event, context, { workspaceId }) => {
  await lookAtVideoAccount(context, { workspaceId, id: idParam(event, 'id') })
  return { looked: true }
})
