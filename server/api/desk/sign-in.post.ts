import { readBodyOf } from '../../http/body'
import { countFailedSignIn, delaySignIn, enforceRateLimit, forgetFailedSignIns } from '../../http/limits'
import { refuseForeignWrites } from '../../http/member'
import { defineCall } from '../../http/define'
import { refuse } from '../../http/problem'
import { signInSchema } from '../../http/requests'
import { signInHere } from '../../http/session'
import { signIn } from '../../people'

export default defineCall('POST /api/desk/sign-in', async (event, context) => {
  refuseForeignWrites(event, context)
  const { email, password } = await readBodyOf(event, signInSchema)
  const account = email.toLowerCase()
  await enforceRateLimit(event, context, 'signInSource')
  await enforceRateLimit(event, context, 'signIn', account)
  await delaySignIn(context, account)
  const member = await signIn(context.db, email, password)
  if (!member) {
    await countFailedSignIn(context, account)
    throw refuse(422, 'password', 'wrongSignIn', {})
  }
  await forgetFailedSignIns(context, account)
  await signInHere(event, context, member)
  return member
})
