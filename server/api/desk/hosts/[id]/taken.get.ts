import { getQuery } from 'h3'
import { viewTaken } from '../../../../calendar-sync'
import { calls } from '../../../../http/calls'
import { defineDeskCall } from '../../../../http/member'
import { check, idParam } from '../../../../http/problem'

export default defineDeskCall('GET /api/desk/hosts/{id}/taken', async (event, context, { workspaceId, memberId }) => {
  const span = check(calls['GET /api/desk/hosts/{id}/taken'].query, getQuery(event))
  return viewTaken(context, workspaceId, idParam(event, 'id'), span, memberId)
})
