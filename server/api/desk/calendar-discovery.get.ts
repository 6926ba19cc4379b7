import { getQuery } from 'h3'
import { discoverServer } from '../../calendar-sync'
import { calls } from '../../http/calls'
import { enforceRateLimit } from '../../http/limits'
import { defineDeskCall } from '../../http/member'
import { check, refuse } from '../../http/problem'

export default defineDeskCall('GET /api/desk/calendar-discovery', async (event, context, { workspaceId }) => {
  const { address } = check(calls['GET /api/desk/calendar-discovery'].query, getQuery(event))
  await enforceRateLimit(event, context, 'connect', workspaceId)
  const found = await discoverServer(context, address)
  if ('fault' in found) throw refuse(422, 'address', 'calendarRefused', found.fault)
  return found
})
