import { removeOwnMessage } from '../../../../messages'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('DELETE /api/desk/own-messages/{id}', async (event, context, member) => {
  if (!await removeOwnMessage(context, member.workspaceId, idParam(event, 'id'))) throw notFound()
  return { removed: true }
})
