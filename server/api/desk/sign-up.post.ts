import { readBodyOf } from '../../http/body'
import { enforceRateLimit } from '../../http/limits'
import { refuseForeignWrites } from '../../http/member'
import { defineCall } from '../../http/define'
import { invalid } from '../../http/problem'
import { signUpSchema } from '../../http/requests'
import { signInHere } from '../../http/session'
import { signUp } from '../../people'

export default defineCall('POST /api/desk/sign-up', async (event, context) => {
  refuseForeignWrites(event, context)
  await enforceRateLimit(event, context, 'signUp')
  const { clock = null, ...request } = await readBodyOf(event, signUpSchema)
  const outcome = await signUp(context, { ...request, clock })
  if ('errors' in outcome) throw invalid(422, outcome.errors)
  await signInHere(event, context, outcome.member)
  return outcome.member
})
