import { changeGuests, guestsRequestSchema, guestsView } from '../../../../booking'
import { readBodyOf } from '../../../../http/body'
import { defineCall } from '../../../../http/define'
import { enforceRateLimit } from '../../../../http/limits'
import { invalid, notFound, problem, tooLate } from '../../../../http/problem'
import { bookingOfToken } from '../../../../http/token'

export default defineCall('POST /api/public/bookings/{token}/guests', async (event, context) => {
  const { workspace, booking } = await bookingOfToken(event, context)
  await enforceRateLimit(event, context, 'booking')
  const wanted = await readBodyOf(event, guestsRequestSchema)
  const outcome = await changeGuests(context, workspace.id, booking.id, wanted, { kind: 'client', name: booking.clientName })
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'refused': throw outcome.refusal === 'wrongState' ? problem('notPossible', 'bookingEnded', {}) : tooLate(outcome.refusal)
    case 'invalid': throw invalid(422, outcome.errors)
    case 'changed': return { guests: guestsView(outcome.details) }
  }
})
