import { setResponseHeader } from 'h3'
import { defineCall } from '../../../../http/define'
import { problem } from '../../../../http/problem'
import { bookingOfToken } from '../../../../http/token'

const HEARTBEAT_MS = 20_000
/** After which a page asks anew. */
const LONGEST_MS = 600_000

/** Says that something has changed, and nothing else: what it is, the page reads as it always does. */
export default defineCall('GET /api/public/bookings/{token}/events', async (event, context) => {
  const { session } = await bookingOfToken(event, context)
  const { req, res } = event.node
  let end = () => {}
  const ended = new Promise<void>(resolve => (end = resolve))
  const unsubscribe = context.sessionChanges.subscribe(session.id, () => res.write('data: changed\n\n'), () => end())
  if (!unsubscribe) throw problem('notAvailable', 'tooManyListeners', {})
  setResponseHeader(event, 'content-type', 'text/event-stream')
  // Proxies pass each line on as it comes.
  setResponseHeader(event, 'x-accel-buffering', 'no')
  event._handled = true
  res.flushHeaders()
  res.write('retry: 3000\n\n')
  const heartbeat = setInterval(() => res.write(': here\n\n'), HEARTBEAT_MS)
  const timer = setTimeout(end, LONGEST_MS)
  req.on('close', end)
  await ended
  unsubscribe()
  clearInterval(heartbeat)
  clearTimeout(timer)
  res.end()
})
