import { getQuery } from 'h3'
import { z } from 'zod'
import { zoneName } from '../../../../../core/openings'
import { dateToDays } from '../../../../../core/time/civil'
import { dateSchema } from '../../../../../core/time/when'
import { zoneOf } from '../../../../../core/time/zone'
import { publicOpening } from '../../../../booking'
import { findOpenings, loadOpenEventType } from '../../../../event-types'
import { check, defineCall, invalid, notFound, param } from '../../../../http/problem'

const MOST_DAYS = 92

export const openingsQuerySchema = z.object({
  from: dateSchema,
  to: dateSchema,
  timeZone: zoneName,
  duration: z.coerce.number().int().min(1).max(1440).optional(),
  host: z.string().max(64).optional(),
}).refine(query => query.from <= query.to, { path: ['to'], message: 'The last date must not be before the first' })

export default defineCall(async (event, { db, now }) => {
  const found = await loadOpenEventType(db, param(event, 'workspace'), param(event, 'eventType'))
  if (!found) throw notFound()
  const query = check(openingsQuerySchema, getQuery(event))
  const [first, last] = [dateToDays(query.from), dateToDays(query.to)]
  if (last - first >= MOST_DAYS) throw invalid(400, [{ path: 'to', message: `At most ${MOST_DAYS} days a call` }])
  const { eventType } = found
  if (query.duration !== undefined && !eventType.settings.durations.includes(query.duration)) {
    throw invalid(400, [{ path: 'duration', message: `Choose one of ${eventType.settings.durations.join(', ')} minutes` }])
  }
  if (query.host !== undefined && !eventType.chairs.some(chair => chair.policy === 'client' && chair.hosts.some(host => host.id === query.host))) {
    throw invalid(400, [{ path: 'host', message: 'This host cannot be chosen here' }])
  }
  const zone = zoneOf(query.timeZone)
  const openings = await findOpenings(db, eventType, {
    now: now(),
    from: zone.startOfDay(first),
    to: zone.startOfDay(last + 1),
    ...(query.duration === undefined ? {} : { durationMinutes: query.duration }),
    ...(query.host === undefined ? {} : { host: query.host }),
  })
  return { openings: openings.map(publicOpening) }
})
