import { getQuery } from 'h3'
import { viewHostsTime } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { check, idParam } from '../../../../http/problem'
import { hostsTimeQuerySchema } from '../../../../http/requests'

export default defineDeskCall('GET /api/desk/event-types/{id}/time', (event, context, member) =>
  viewHostsTime(context, member, idParam(event, 'id'), check(hostsTimeQuerySchema, getQuery(event))))
