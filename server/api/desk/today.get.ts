import { getQuery } from 'h3'
import { dateToDays } from '../../../core/time/civil'
import { zoneOf } from '../../../core/time/zone'
import { todayRevision, viewToday } from '../../booking'
import { defineDeskCall } from '../../http/member'
import { check } from '../../http/problem'
import { todayQuerySchema } from '../../http/requests'

export default defineDeskCall('GET /api/desk/today', async (event, context, member) => {
  const query = check(todayQuerySchema, getQuery(event))
  const revision = await todayRevision(context, member)
  if (query.revision === revision) return { revision, view: null }
  const zone = zoneOf(query.timeZone)
  const today = zone.dayOf(context.now())
  const day = query.date === undefined ? today : dateToDays(query.date)
  const view = await viewToday(context, member, {
    from: zone.startOfDay(day),
    to: zone.startOfDay(day + 1),
    todayEnds: zone.startOfDay(today + 1),
  })
  return { revision, view }
})
