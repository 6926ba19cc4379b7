import { getHeader, setResponseStatus } from 'h3'
import { readBytes } from '../../../http/body'
import { defineCall } from '../../../http/define'
import { enforceRateLimit } from '../../../http/limits'
import { idParam, notFound } from '../../../http/problem'
import { receiveNotification } from '../../../payments'

const MOST_BYTES = 64 * 1024

/** What a payment service says by itself: signed, and otherwise answered as if there were nothing here. */
export default defineCall('POST /api/payments/{account}/notifications', async (event, context) => {
  const body = (await readBytes(event, MOST_BYTES)).toString('utf8')
  const isTaken = await receiveNotification(context, idParam(event, 'account'), { header: name => getHeader(event, name), body })
  if (isTaken) return setResponseStatus(event, 204)
  await enforceRateLimit(event, context, 'token')
  throw notFound()
})
