import { getQuery } from 'h3'
import { dateToDays } from '../../../../core/time/civil'
import { zoneOf } from '../../../../core/time/zone'
import { listSessions } from '../../../booking'
import { defineDeskCall } from '../../../http/member'
import { check } from '../../../http/problem'
import { sessionsQuerySchema } from '../../../http/requests'

export default defineDeskCall('GET /api/desk/sessions', (event, context, member) => {
  const { timeZone, from, to, host, eventType, state, tag, ...filter } = check(sessionsQuerySchema, getQuery(event))
  const zone = zoneOf(timeZone)
  return listSessions(context, member, {
    ...filter,
    ...(from ? { from: zone.startOfDay(dateToDays(from)) } : {}),
    ...(to ? { to: zone.startOfDay(dateToDays(to) + 1) } : {}),
    ...(host ? { hostId: host } : {}),
    ...(eventType ? { eventTypeId: eventType } : {}),
    ...(state ? { state } : {}),
    ...(tag ? { tag } : {}),
  })
})
