import { readBodyOf } from '../../../http/body'
import { defineCall } from '../../../http/define'
import { enforceRateLimit } from '../../../http/limits'
import { refuseForeignWrites } from '../../../http/member'
import { notFound, problem } from '../../../http/problem'
import { tokenSchema } from '../../../http/requests'
import { confirmAddressChange } from '../../../people'

export default defineCall('POST /api/desk/account-address/confirm', async (event, context) => {
  refuseForeignWrites(event, context)
  await enforceRateLimit(event, context, 'token')
  const { token } = await readBodyOf(event, tokenSchema)
  const outcome = await confirmAddressChange(context, token)
  if (outcome.kind === 'notFound') throw notFound('linkUnknown')
  if (outcome.kind === 'taken') throw problem('addressInUse', 'addressTaken', {})
  return { state: outcome.kind, email: outcome.kind === 'changed' ? outcome.email : outcome.other }
})
