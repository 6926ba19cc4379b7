import { enforceRateLimit } from '../../../http/limits'
import { defineDeskCall } from '../../../http/member'
import { problem } from '../../../http/problem'
import { sendConfirmation } from '../../../people'

export default defineDeskCall('POST /api/desk/confirm/send', async (event, context, member) => {
  await enforceRateLimit(event, context, 'signUp', 'confirmation')
  if (!await sendConfirmation(context, member)) throw problem('confirmedAlready', 'confirmedAlready', {})
  return { sent: true }
})
