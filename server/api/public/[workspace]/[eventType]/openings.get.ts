import { getQuery } from 'h3'
import { dateToDays } from '../../../../../core/time/civil'
import { zoneOf } from '../../../../../core/time/zone'
import { publicOpening } from '../../../../booking'
import { findOpenings } from '../../../../event-types'
import { check, defineCall, invalid } from '../../../../http/problem'
import { eventTypeOfPath } from '../../../../http/public'
import { openingsQuerySchema } from '../../../../http/requests'

const MOST_DAYS = 92

export default defineCall(async (event, context) => {
  const { eventType } = await eventTypeOfPath(event, context)
  const query = check(openingsQuerySchema, getQuery(event))
  const [first, last] = [dateToDays(query.from), dateToDays(query.to)]
  if (last - first >= MOST_DAYS) throw invalid(400, [{ path: 'to', message: `At most ${MOST_DAYS} days a call` }])
  if (query.duration !== undefined && !eventType.settings.durations.includes(query.duration)) {
    throw invalid(400, [{ path: 'duration', message: `Choose one of ${eventType.settings.durations.join(', ')} minutes` }])
  }
  if (query.host !== undefined && !eventType.chairs.some(chair => chair.policy === 'client' && chair.hosts.some(host => host.id === query.host))) {
    throw invalid(400, [{ path: 'host', message: 'This host cannot be chosen here' }])
  }
  const zone = zoneOf(query.timeZone)
  const openings = await findOpenings(context.db, eventType, {
    now: context.now(),
    from: zone.startOfDay(first),
    to: zone.startOfDay(last + 1),
    ...(query.duration === undefined ? {} : { durationMinutes: query.duration }),
    ...(query.host === undefined ? {} : { host: query.host }),
  })
  return { openings: openings.map(publicOpening) }
})
