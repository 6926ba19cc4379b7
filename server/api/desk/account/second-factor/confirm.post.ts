import { readBodyOf } from '../../../../http/body'
import { countWrongCode, enforceCodeLimit } from '../../../../http/limits'
import { defineDeskCall } from '../../../../http/member'
import { refuse } from '../../../../http/problem'
import { codeSchema } from '../../../../http/requests'
import { confirmSecondFactor } from '../../../../people'

export default defineDeskCall('POST /api/desk/account/second-factor/confirm', async (event, context, member) => {
  const { code } = await readBodyOf(event, codeSchema)
  await enforceCodeLimit(event, context, member.email)
  const recoveryCodes = await confirmSecondFactor(context, member, code)
  if (!recoveryCodes) {
    await countWrongCode(context, member.email)
    throw refuse(422, 'code', 'wrongCode', {})
  }
  return { recoveryCodes }
})
