import { readBodyOf } from '../../../http/body'
import { defineCall } from '../../../http/define'
import { enforceRateLimit } from '../../../http/limits'
import { refuseForeignWrites } from '../../../http/member'
import { forgottenPasswordSchema } from '../../../http/requests'
import { requestPasswordReset } from '../../../people'

export default defineCall('POST /api/desk/password/forgotten', async (event, context) => {
  refuseForeignWrites(event, context)
  await enforceRateLimit(event, context, 'signUp', 'forgotten password')
  const { email } = await readBodyOf(event, forgottenPasswordSchema)
  await requestPasswordReset(context, email)
  return { sent: true }
})
