import { readBodyOf } from '../../../../http/body'
import { countWrongCode, enforceCodeLimit, enforceRateLimit } from '../../../../http/limits'
import { defineDeskCall } from '../../../../http/member'
import { refuse } from '../../../../http/problem'
import { passwordAndCodeSchema } from '../../../../http/requests'
import { endSecondFactor } from '../../../../people'

export default defineDeskCall('POST /api/desk/account/second-factor/end', async (event, context, member) => {
  const { password, code } = await readBodyOf(event, passwordAndCodeSchema)
  await enforceRateLimit(event, context, 'signIn', member.email)
  await enforceCodeLimit(event, context, member.email)
  const outcome = await endSecondFactor(context, member, password, code)
  if (outcome === 'wrongPassword') throw refuse(422, 'password', 'wrongOwnPassword', {})
  if (outcome === 'wrongCode') {
    await countWrongCode(context, member.email)
    throw refuse(422, 'code', 'wrongCode', {})
  }
  return { ended: true }
})
