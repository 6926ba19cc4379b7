import { getQuery } from 'h3'
import { clientPageView } from '../../../../booking'
import { check, defineCall } from '../../../../http/problem'
import { pageQuerySchema } from '../../../../http/requests'
import { bookingOfToken } from '../../../../http/token'
import { markOpened } from '../../../../messages'

/** What the client's own page shows. A link from a mail carries `mail`, which shows that the address is theirs. */
export default defineCall(async (event, context) => {
  const { mail } = check(pageQuerySchema, getQuery(event))
  const details = await bookingOfToken(event, context)
  if (mail) await markOpened(context, details.booking, mail)
  return clientPageView(context, details)
})
