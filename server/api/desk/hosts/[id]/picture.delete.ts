import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'
import { deletePicture } from '../../../../people'

export default defineDeskCall('DELETE /api/desk/hosts/{id}/picture', async (event, { db }, { workspaceId }) => {
  await deletePicture(db, workspaceId, idParam(event, 'id'))
  return { deleted: true }
})
