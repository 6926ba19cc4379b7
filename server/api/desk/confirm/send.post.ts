import { enforceRateLimit } from '../../../http/limits'
import { defineDeskCall } from '../../../http/member'
import { Problem } from '../../../http/problem'
import { sendConfirmation } from '../../../people'

export default defineDeskCall('POST /api/desk/confirm/send', async (event, context, member) => {
  await enforceRateLimit(event, context, 'signUp', 'confirmation')
  if (!await sendConfirmation(context, member)) throw new Problem('confirmedAlready', 'This address is confirmed already.')
  return { sent: true }
})
