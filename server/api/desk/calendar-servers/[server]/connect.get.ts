import { getQuery, sendRedirect } from 'h3'
import { calendarConsentUrl, findCalendarServer, mayConnectCalendars } from '../../../../calendar-sync'
import { defineDeskCall } from '../../../../http/member'
import { check, notFound, param, problem } from '../../../../http/problem'
import { connectQuerySchema } from '../../../../http/requests'

export default defineDeskCall('GET /api/desk/calendar-servers/{server}/connect', async (event, context, member) => {
  const server = findCalendarServer(context, param(event, 'server'))
  const { host: hostId } = check(connectQuerySchema, getQuery(event))
  if (!server) throw notFound()
  if (!await mayConnectCalendars(context.db, member, hostId)) throw problem('notAllowed', 'ownAccountOnly', {})
  const { workspaceId, memberId } = member
  return sendRedirect(event, await calendarConsentUrl(context, server, { workspaceId, memberId, hostId }))
})
