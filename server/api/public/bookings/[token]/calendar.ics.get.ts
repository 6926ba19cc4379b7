import { setResponseHeader } from 'h3'
import { entryFor } from '../../../../messages'
import { defineCall } from '../../../../http/problem'
import { bookingOfToken } from '../../../../http/token'

export default defineCall(async (event, context) => {
  const story = await bookingOfToken(event, context)
  const { booking } = story
  const over = booking.state === 'cancelled' || booking.state === 'declined' || booking.state === 'expired'
  setResponseHeader(event, 'content-type', 'text/calendar; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="session.ics"')
  const { text } = entryFor(context, story, { audience: 'client', name: booking.clientName, timeZone: booking.timeZone }, over ? 'CANCEL' : 'PUBLISH')
  return text
})
