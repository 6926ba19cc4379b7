import { readBodyOf } from '../../../../http/body'
import { enforceRateLimit } from '../../../../http/limits'
import { defineDeskCall } from '../../../../http/member'
import { problem, refuse } from '../../../../http/problem'
import { passwordSchema } from '../../../../http/requests'
import { beginSecondFactor } from '../../../../people'

export default defineDeskCall('POST /api/desk/account/second-factor', async (event, context, member) => {
  const { password } = await readBodyOf(event, passwordSchema)
  await enforceRateLimit(event, context, 'signIn', member.email)
  const outcome = await beginSecondFactor(context, member, password)
  if (outcome.kind === 'wrongPassword') throw refuse(422, 'password', 'wrongOwnPassword', {})
  if (outcome.kind === 'notPossible') throw problem('notPossible', 'factorNotPossible', {})
  return { secret: outcome.secret, uri: outcome.uri }
})
