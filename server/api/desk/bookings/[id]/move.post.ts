import { moveBooking } from '../../../../booking'
import { englishLocale, withClock } from '../../../../../core/time/format'
import { instantToSeconds } from '../../../../../core/time/civil'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem, refuse } from '../../../../http/problem'
import { deskMoveSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/bookings/{id}/move', async (event, context, member) => {
  const bookingId = idParam(event, 'id')
  const { start, whole, despite } = await readBodyOf(event, deskMoveSchema)
  if (instantToSeconds(start) <= context.now()) throw refuse(422, 'start', 'inThePast', {})
  const outcome = await moveBooking(
    context, member.workspaceId, { bookingId, start: instantToSeconds(start), whole, despite },
    { by: { kind: 'member', name: member.name }, zone: member.timeZone, locale: withClock(englishLocale(undefined), member.clock) },
  )
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'refused': throw problem('notPossible', 'bookingEnded', {})
    case 'held': throw problem('notPossible', 'sessionHeld', {})
    case 'taken': throw problem('noLongerOpen', 'timeTaken', {}, { nearest: outcome.nearest })
    case 'warned':
      throw problem('noLongerOpen', 'notAnOpening', { reasons: outcome.reasons }, { nearest: outcome.nearest, reasons: outcome.reasons })
    case 'moved': return { moved: true as const, sessionId: outcome.details.session.id }
  }
})
