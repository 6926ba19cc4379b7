import { getQuery } from 'h3'
import { englishLocale, withClock } from '../../../../core/time/format'
import { listEventTypes } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'
import { check } from '../../../http/problem'
import { eventTypesQuerySchema } from '../../../http/requests'

export default defineDeskCall('GET /api/desk/event-types', async (event, context, member) => {
  const { clock } = check(eventTypesQuerySchema, getQuery(event))
  return listEventTypes(context, member, withClock(englishLocale(undefined), clock ?? member.clock))
})
