import { readBodyOf } from '../../../http/body'
import { enforceRateLimit } from '../../../http/limits'
import { refuseForeignWrites } from '../../../http/member'
import { defineCall } from '../../../http/define'
import { notFound, problem, refuse } from '../../../http/problem'
import { confirmSchema } from '../../../http/requests'
import { signedInMember, signInHere } from '../../../http/session'
import { confirmAddress } from '../../../people'

/** Confirms an address by the mailed link: as its signed-in member, or with the password chosen at sign-up. */
export default defineCall('POST /api/desk/confirm', async (event, context) => {
  refuseForeignWrites(event, context)
  await enforceRateLimit(event, context, 'token')
  const { token, password } = await readBodyOf(event, confirmSchema)
  const outcome = await confirmAddress(context, token, await signedInMember(event, context), password ?? null)
  switch (outcome.kind) {
    case 'notFound':
      throw notFound('linkUnknown')
    case 'addressKnown':
      throw problem('addressInUse', 'addressElsewhere', {})
    case 'needsPassword':
      throw refuse(422, 'password', 'passwordNeeded', {})
    case 'wrongPassword':
      throw refuse(422, 'password', 'wrongPassword', {})
    case 'confirmed':
      await signInHere(event, context, outcome.member)
      return outcome.member
  }
})
