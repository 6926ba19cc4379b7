import { enforceRateLimit } from '../../../../../http/limits'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound } from '../../../../../http/problem'
import { sendInvitation } from '../../../../../people'

export default defineDeskCall('POST /api/desk/people/invitations/{id}/send', async (event, context, member) => {
  await enforceRateLimit(event, context, 'invitation', member.workspaceId)
  if (!await sendInvitation(context, member, idParam(event, 'id'))) throw notFound()
  return { sent: true }
})
