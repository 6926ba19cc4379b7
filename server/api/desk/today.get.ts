import { getHeader, getQuery, setResponseHeader, setResponseStatus } from 'h3'
import { dateToDays } from '../../../core/time/civil'
import { zoneOf } from '../../../core/time/zone'
import type { TodayView } from '../../../core/views/desk'
import { todayRevision, viewToday } from '../../booking'
import { JsonText } from '../../json-text'
import { defineDeskCall } from '../../http/member'
import { check } from '../../http/problem'
import { todayQuerySchema } from '../../http/requests'

/** Screens ask every few seconds; they are sent the whole only when something has happened. */
export default defineDeskCall('GET /api/desk/today', async (event, context, member) => {
  const query = check(todayQuerySchema, getQuery(event))
  const revision = await todayRevision(context, member)
  const tag = `"${revision}"`
  setResponseHeader(event, 'etag', tag)
  if (getHeader(event, 'if-none-match') === tag) {
    setResponseStatus(event, 304)
    return new JsonText<TodayView>('')
  }
  const zone = zoneOf(query.timeZone)
  const today = zone.dayOf(context.now())
  const day = query.date === undefined ? today : dateToDays(query.date)
  return viewToday(context, member, {
    from: zone.startOfDay(day),
    to: zone.startOfDay(day + 1),
    todayEnds: zone.startOfDay(today + 1),
    zone,
    revision,
  })
})
