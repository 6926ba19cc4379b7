import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound } from '../../../../../http/problem'
import { withdrawInvitation } from '../../../../../people'

export default defineDeskCall('DELETE /api/desk/people/invitations/{id}', async (event, context, member) => {
  if (!await withdrawInvitation(context, member.workspaceId, idParam(event, 'id'))) throw notFound()
  return { withdrawn: true }
})
