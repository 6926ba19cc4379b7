import { getQuery } from 'h3'
import { viewRotation } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'
import { check } from '../../../http/problem'
import { rotationQuerySchema } from '../../../http/requests'

export default defineDeskCall('GET /api/desk/rotation', (event, context, member) =>
  viewRotation(context, member.workspaceId, check(rotationQuerySchema, getQuery(event))))
