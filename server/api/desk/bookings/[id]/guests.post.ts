import { changeGuests, guestsRequestSchema, guestsView } from '../../../../booking'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, invalid, notFound, problem } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/bookings/{id}/guests', async (event, context, member) => {
  const bookingId = idParam(event, 'id')
  const wanted = await readBodyOf(event, guestsRequestSchema)
  const outcome = await changeGuests(context, member.workspaceId, bookingId, wanted, { kind: 'member', name: member.name })
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'refused': throw problem('notPossible', 'bookingEnded', {})
    case 'invalid': throw invalid(422, outcome.errors)
    case 'changed': return { guests: guestsView(outcome.details) }
  }
})
