import { getQuery } from 'h3'
import { dateToDays } from '../../../core/time/civil'
import { zoneOf } from '../../../core/time/zone'
import { viewToday } from '../../booking'
import { defineDeskCall } from '../../http/member'
import { check } from '../../http/problem'
import { todayQuerySchema } from '../../http/requests'

export default defineDeskCall('GET /api/desk/today', async (event, context, member) => {
  const query = check(todayQuerySchema, getQuery(event))
  const zone = zoneOf(query.timeZone)
  const day = query.date === undefined ? zone.dayOf(context.now()) : dateToDays(query.date)
  return viewToday(context, member, zone.startOfDay(day), zone.startOfDay(day + 1))
})
