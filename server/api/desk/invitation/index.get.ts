import { getQuery } from 'h3'
import { defineCall } from '../../../http/define'
import { enforceRateLimit } from '../../../http/limits'
import { check, notFound } from '../../../http/problem'
import { invitationQuerySchema } from '../../../http/requests'
import { signedInMember } from '../../../http/session'
import { viewInvitation } from '../../../people'

export default defineCall('GET /api/desk/invitation', async (event, context) => {
  await enforceRateLimit(event, context, 'token')
  const { token } = check(invitationQuerySchema, getQuery(event))
  const view = await viewInvitation(context, token, await signedInMember(event, context))
  if (!view) throw notFound('linkUnknown')
  return view
})
