import { changePeople, peopleRequestSchema } from '../../../../booking'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, invalid, notFound, problem } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/bookings/{id}/people', async (event, context, member) => {
  const { people } = await readBodyOf(event, peopleRequestSchema)
  const outcome = await changePeople(context, member.workspaceId, idParam(event, 'id'), people, { kind: 'member', name: member.name })
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'refused': throw problem('notPossible', 'bookingEnded', {})
    case 'invalid': throw invalid(422, outcome.errors)
    case 'changed': return { people: outcome.details.booking.people }
  }
})
