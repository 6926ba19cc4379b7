import { getHeader, setResponseStatus } from 'h3'
import { bookingRequestSchema, bookOpening, idempotencyKeySchema } from '../../../../booking'
import { readBodyOf } from '../../../../http/body'
import { enforceRateLimit } from '../../../../http/limits'
import { defineCall } from '../../../../http/define'
import { check, invalid, notFound, param, problem, refuse } from '../../../../http/problem'

export default defineCall('POST /api/public/{workspace}/{eventType}/bookings', async (event, context) => {
  await enforceRateLimit(event, context, 'booking')
  const key = check(idempotencyKeySchema, getHeader(event, 'idempotency-key'), 'Idempotency-Key')
  const request = await readBodyOf(event, bookingRequestSchema)
  const outcome = await bookOpening(context, param(event, 'workspace'), param(event, 'eventType'), key, request)
  switch (outcome.kind) {
    case 'notFound':
      throw notFound()
    case 'invalid':
      throw invalid(422, outcome.errors)
    case 'keyReused':
      throw refuse(422, 'Idempotency-Key', 'idempotencyKeyReused', {})
    case 'taken':
      throw problem(
        'noLongerOpen',
        'justTaken',
        {},
        outcome.body,
      )
    case 'booked':
      setResponseStatus(event, 201)
      return outcome.body
  }
})
