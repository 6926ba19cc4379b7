import { readBodyOf } from '../../../http/body'
import { enforceRateLimit } from '../../../http/limits'
import { refuseForeignWrites } from '../../../http/member'
import { defineCall } from '../../../http/define'
import { notFound } from '../../../http/problem'
import { refuseSchema } from '../../../http/requests'
import { refuseSignUp } from '../../../people'

/** Somebody signed up with an address that is not theirs; whoever reads its mail has it deleted. */
export default defineCall('POST /api/desk/confirm/refuse', async (event, context) => {
  refuseForeignWrites(event, context)
  await enforceRateLimit(event, context, 'token')
  const { token } = await readBodyOf(event, refuseSchema)
  if (!await refuseSignUp(context, token)) throw notFound('linkUnknown')
  return { refused: true }
})
