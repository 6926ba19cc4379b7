import { bookingView, cancelByToken } from '../../../../booking'
import { readBodyOf } from '../../../../http/body'
import { defineCall, notFound, param, Problem } from '../../../../http/problem'
import { cancelSchema } from '../../../../http/requests'
import { bookingOfToken } from '../../../../http/token'

export default defineCall(async (event, context) => {
  await bookingOfToken(event, context)
  const { reason } = await readBodyOf(event, cancelSchema)
  const outcome = await cancelByToken(context, param(event, 'token'), reason || null)
  if (!outcome) throw notFound()
  if (outcome.tooLate) throw new Problem(409, 'Too late', 'This session is over, so it can no longer be cancelled.')
  return { booking: bookingView(outcome.story) }
})
