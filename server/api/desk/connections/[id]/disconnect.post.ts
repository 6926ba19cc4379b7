import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'
import { dropAccount } from '../../../../rooms'

export default defineDeskCall('POST /api/desk/connections/{id}/disconnect', async (event, { db }, { workspaceId }) => {
  await dropAccount(db, workspaceId, idParam(event, 'id'))
  return { disconnected: true }
})
