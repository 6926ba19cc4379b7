import { readBodyOf } from '../../../../http/body'
import { enforceRateLimit } from '../../../../http/limits'
import { defineDeskCall } from '../../../../http/member'
import { problem, refuse } from '../../../../http/problem'
import { invitationSchema } from '../../../../http/requests'
import { invite } from '../../../../people'

export default defineDeskCall('POST /api/desk/people/invitations', async (event, context, member) => {
  const invitee = await readBodyOf(event, invitationSchema)
  // Mails to strangers go out only for somebody who reads their own.
  if (!member.confirmed) throw problem('notPossible', 'confirmFirst', {})
  await enforceRateLimit(event, context, 'invitation', member.workspaceId)
  const outcome = await invite(context, member, invitee)
  switch (outcome.kind) {
    case 'memberAlready': throw refuse(422, 'email', 'memberAlready', {})
    case 'invitedAlready': throw refuse(422, 'email', 'invitedAlready', {})
    case 'tooMany': throw refuse(422, 'email', 'tooManyInvitations', { most: outcome.most })
    case 'invited': return { id: outcome.id }
  }
})
