import { getHeader, setResponseStatus } from 'h3'
import { instantToSeconds } from '../../../../core/time/civil'
import { englishLocale, withClock } from '../../../../core/time/format'
import { bookForClient, deskBookingSchema, idempotencyKeySchema } from '../../../booking'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { check, invalid, notFound, problem, refuse } from '../../../http/problem'

export default defineDeskCall('POST /api/desk/bookings', async (event, context, member) => {
  const key = check(idempotencyKeySchema, getHeader(event, 'idempotency-key'), 'Idempotency-Key')
  const request = await readBodyOf(event, deskBookingSchema)
  if (instantToSeconds(request.start) <= context.now()) throw refuse(422, 'start', 'inThePast', {})
  const reader = { zone: member.timeZone, locale: withClock(englishLocale(undefined), member.clock) }
  const outcome = await bookForClient(context, member, key, request, reader)
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'notConfirmed': throw problem('notPossible', 'confirmFirst', {})
    case 'ownOnly': throw problem('notAllowed', 'ownSessionsOnly', {})
    case 'invalid': throw invalid(422, outcome.errors)
    case 'keyReused': throw refuse(422, 'Idempotency-Key', 'idempotencyKeyReused', {})
    case 'taken': throw problem('noLongerOpen', 'sessionThen', {}, { nearest: outcome.nearest })
    case 'warned':
      throw problem('noLongerOpen', 'notAnOpening', { reasons: outcome.reasons }, { nearest: outcome.nearest, reasons: outcome.reasons })
    case 'booked':
      setResponseStatus(event, 201)
      return { sessionId: outcome.sessionId }
  }
})
