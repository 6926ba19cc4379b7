import { readBodyOf } from '../../http/body'
import { countFailedSignIn, countWrongCode, delaySignIn, enforceCodeLimit, enforceRateLimit, forgetFailedSignIns } from '../../http/limits'
import { refuseForeignWrites } from '../../http/member'
import { defineCall } from '../../http/define'
import { refuse } from '../../http/problem'
import { signInSchema } from '../../http/requests'
import { signInHere } from '../../http/session'
import { signIn } from '../../people'

export default defineCall('POST /api/desk/sign-in', async (event, context) => {
  refuseForeignWrites(event, context)
  const { email, password, code } = await readBodyOf(event, signInSchema)
  const account = email.toLowerCase()
  await enforceRateLimit(event, context, 'signInSource')
  await enforceRateLimit(event, context, 'signIn', account)
  await delaySignIn(context, account)
  if (code) await enforceCodeLimit(event, context, account)
  const outcome = await signIn(context, email, password, code)
  if (outcome.kind === 'wrong') {
    await countFailedSignIn(context, account)
    throw refuse(422, 'password', 'wrongSignIn', {})
  }
  if (outcome.kind !== 'signedIn') {
    if (outcome.kind === 'wrongCode') await countWrongCode(context, account)
    throw refuse(422, 'code', outcome.kind, {})
  }
  await forgetFailedSignIns(context, account)
  await signInHere(event, context, outcome.member)
  return outcome.member
})
