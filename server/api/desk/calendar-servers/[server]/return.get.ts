import { getQuery, sendRedirect } from 'h3'
import { calendarReturnPath, connectByConsent, findCalendarServer, openCalendarConsent } from '../../../../calendar-sync'
import { defineDeskCall } from '../../../../http/member'
import { check, param, problem } from '../../../../http/problem'
import { calendarConsentQuerySchema } from '../../../../http/requests'

/** Where a calendar server sends a member back to, with a code when consent was given. */
export default defineDeskCall('GET /api/desk/calendar-servers/{server}/return', async (event, context, { workspaceId, memberId }) => {
  const key = param(event, 'server')
  const { state, code } = check(calendarConsentQuerySchema, getQuery(event))
  const consent = openCalendarConsent(context, state)
  const server = findCalendarServer(context, key)
  if (!consent || !server || consent.server !== key || consent.memberId !== memberId || consent.workspaceId !== workspaceId)
    throw problem('consentUnknown', 'consentUnknown', {})
  const back = (outcome: string) => sendRedirect(event, `/desk/connections?host=${consent.hostId}&outcome=${outcome}`)
  if (!code) return back('refused')
  const asked = { code, verifier: consent.verifier, redirectUri: context.settings.baseUrl + calendarReturnPath(key) }
  const { kind } = await connectByConsent(context, workspaceId, consent.hostId, server, asked)
  return back(kind === 'connected' ? 'calendar' : 'failed')
})
