import { readBodyOf } from '../../../http/body'
import { defineCall } from '../../../http/define'
import { enforceRateLimit } from '../../../http/limits'
import { refuseForeignWrites } from '../../../http/member'
import { notFound, problem, refuse } from '../../../http/problem'
import { acceptSchema } from '../../../http/requests'
import { signedInMember, signInHere } from '../../../http/session'
import { acceptInvitation } from '../../../people'

export default defineCall('POST /api/desk/invitation', async (event, context) => {
  refuseForeignWrites(event, context)
  await enforceRateLimit(event, context, 'token')
  const { token, ...acceptance } = await readBodyOf(event, acceptSchema)
  const outcome = await acceptInvitation(context, token, await signedInMember(event, context), acceptance)
  switch (outcome.kind) {
    case 'notFound': throw notFound('linkUnknown')
    case 'over': throw problem('invitationOver', 'invitationOver', { state: outcome.state })
    case 'otherAddress': throw problem('notPossible', 'invitationForAnother', { email: outcome.email })
    case 'memberAlready': throw problem('notPossible', 'memberAlready', {})
    case 'signInFirst': throw problem('notPossible', 'signInFirst', {})
    case 'needsPassword': throw refuse(422, 'password', 'passwordNeeded', {})
    case 'wrongPassword': throw refuse(422, 'password', 'wrongPassword', {})
    case 'weak': throw refuse(422, 'password', outcome.fault.code, outcome.fault.values)
    case 'joined':
      await signInHere(event, context, outcome.member)
      return outcome.member
  }
})
