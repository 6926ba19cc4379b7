import type { H3Event } from 'h3'
import { findBookingByToken } from '../booking'
import type { Context } from '../context'
import type { BookingDetails } from '../details'
import { enforceRateLimit } from './limits'
import { notFound, param } from './problem'

/** The booking a client's token opens; wrong tokens are counted against whoever tries them. Throws Problem 404 or 429. */
export async function bookingOfToken(event: H3Event, context: Context): Promise<BookingDetails> {
  const details = await findBookingByToken(context.db, param(event, 'token'))
  return details ?? unknownToken(event, context)
}

/** Counts a wrong token against whoever tries it. Throws Problem 404 or 429. */
export async function unknownToken(event: H3Event, context: Context): Promise<never> {
  await enforceRateLimit(event, context, 'token')
  throw notFound()
}
