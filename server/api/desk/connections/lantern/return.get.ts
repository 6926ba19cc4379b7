import { getQuery, sendRedirect } from 'h3'
import { defineDeskCall } from '../../../../http/member'
import { check, Problem } from '../../../../http/problem'
import { consentQuerySchema } from '../../../../http/requests'
import { VideoFault } from '../../../../ports/video'
import { saveAccount, openConsent, RETURN_PATH } from '../../../../rooms'

/** Where Lantern Rooms sends a member back to, with a code when consent was given. */
export default defineDeskCall('connectAccounts', async (event, context, member) => {
  const { state, code } = check(consentQuerySchema, getQuery(event))
  const consent = openConsent(context.settings.secret, state)
  if (!consent || consent.until < context.now() || consent.memberId !== member.memberId || consent.workspaceId !== member.workspaceId || !context.video.lantern) {
    throw new Problem(400, 'Not possible', 'This consent was not asked for here, or too long ago. Please start again from Connections.')
  }
  if (!code) return sendRedirect(event, '/desk/connections?outcome=refused')
  try {
    await saveAccount(context, member.workspaceId, consent.hostId, await context.video.lantern.exchangeCode(code, context.settings.baseUrl + RETURN_PATH))
  } catch (error) {
    if (!(error instanceof VideoFault)) throw error
    return sendRedirect(event, '/desk/connections?outcome=failed')
  }
  return sendRedirect(event, '/desk/connections?outcome=connected')
})
