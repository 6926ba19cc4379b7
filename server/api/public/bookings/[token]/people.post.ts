import { bookingView, changePeople, peopleRequestSchema } from '../../../../booking'
import { readBodyOf } from '../../../../http/body'
import { defineCall } from '../../../../http/define'
import { enforceRateLimit } from '../../../../http/limits'
import { invalid, notFound, problem, tooLate } from '../../../../http/problem'
import { bookingOfToken } from '../../../../http/token'

export default defineCall('POST /api/public/bookings/{token}/people', async (event, context) => {
  const { workspace, booking } = await bookingOfToken(event, context)
  await enforceRateLimit(event, context, 'booking')
  const { people } = await readBodyOf(event, peopleRequestSchema)
  const outcome = await changePeople(context, workspace.id, booking.id, people, { kind: 'client', name: booking.clientName })
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'refused': throw outcome.refusal === 'wrongState' ? problem('notPossible', 'bookingEnded', {}) : tooLate(outcome.refusal)
    case 'invalid': throw invalid(422, outcome.errors)
    case 'changed': return { booking: bookingView(outcome.details) }
  }
})
