import { getQuery, sendRedirect } from 'h3'
import { defineDeskCall } from '../../../../http/member'
import { check, param, problem } from '../../../../http/problem'
import { consentQuerySchema } from '../../../../http/requests'
import { VideoFault } from '../../../../ports/video'
import { openConsent, returnPath, saveAccount } from '../../../../rooms'

/** Where a video service sends a member back to, with a code when consent was given. */
export default defineDeskCall('GET /api/desk/video-services/{service}/return', async (event, context, member) => {
  const key = param(event, 'service')
  const { state, code } = check(consentQuerySchema, getQuery(event))
  const consent = openConsent(context.settings.secret, state)
  const service = context.video.get(key)
  const isOurs = consent?.memberId === member.memberId && consent.workspaceId === member.workspaceId && consent.service === key
  if (!consent || !service || !isOurs || consent.until < context.now()) {
    throw problem('consentUnknown', 'consentUnknown', {})
  }
  if (!code) return sendRedirect(event, '/desk/connections?outcome=refused')
  try {
    await saveAccount(
      context,
      member.workspaceId,
      consent.hostId,
      key,
      await service.connection.exchangeCode(code, context.settings.baseUrl + returnPath(key)),
    )
  } catch (error) {
    if (!(error instanceof VideoFault)) throw error
    return sendRedirect(event, '/desk/connections?outcome=failed')
  }
  return sendRedirect(event, '/desk/connections?outcome=connected')
})
