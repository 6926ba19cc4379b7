import { makeDefault } from '../../../../hosts-time'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/hours/{id}/default', async (event, context, { workspaceId }) => {
  if (await makeDefault(context, workspaceId, idParam(event, 'id')) === 'notFound') throw notFound()
  return { isDefault: true }
})
