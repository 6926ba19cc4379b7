import { getQuery } from 'h3'
import { clientPageView } from '../../../../booking'
import { defineCall } from '../../../../http/define'
import { check } from '../../../../http/problem'
import { pageQuerySchema } from '../../../../http/requests'
import { bookingOfToken } from '../../../../http/token'
import { markOpened } from '../../../../messages'

/** What the client's own page shows. A link from a mail carries `mail`, which shows that the address is theirs. */
export default defineCall('GET /api/public/bookings/{token}/page', async (event, context) => {
  const { mail } = check(pageQuerySchema, getQuery(event))
  const details = await bookingOfToken(event, context)
  if (mail) await markOpened(context, details.booking, mail)
  return clientPageView(context, details)
})
