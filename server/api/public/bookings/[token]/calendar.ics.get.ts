import { setResponseHeader } from 'h3'
import { clientEntry } from '../../../../calendars'
import { defineCall } from '../../../../http/define'
import { bookingOfToken } from '../../../../http/token'

export default defineCall('GET /api/public/bookings/{token}/calendar.ics', async (event, context) => {
  const details = await bookingOfToken(event, context)
  const { state } = details.booking
  const hasEnded = state === 'cancelled' || state === 'declined' || state === 'expired'
  setResponseHeader(event, 'content-type', 'text/calendar; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="session.ics"')
  return clientEntry(context, details, hasEnded ? 'CANCEL' : 'PUBLISH', { isGuest: false, mailed: false }).text
})
