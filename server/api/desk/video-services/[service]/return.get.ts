import { getQuery, sendRedirect } from 'h3'
import type { AskedAccount } from '../../../../../core/views/connections'
import { defineDeskCall } from '../../../../http/member'
import { check, param, problem } from '../../../../http/problem'
import { consentQuerySchema } from '../../../../http/requests'
import { connectByConsent } from '../../../../rooms'

/** Where a video service sends a member back to, with a code when consent was given. */
export default defineDeskCall('GET /api/desk/video-services/{service}/return', async (event, context, member) => {
  const { state, code } = check(consentQuerySchema, getQuery(event))
  const outcome = await connectByConsent(context, member, param(event, 'service'), state, code ?? null)
  if (outcome.kind === 'unknown') throw problem('consentUnknown', 'consentUnknown', {})
  const { kind, hostId } = outcome
  const page = `/desk/connections?${new URLSearchParams({ host: hostId, outcome: kind })}`
  if (outcome.kind !== 'foreign') return sendRedirect(event, page)
  const { sealed, label, owner } = outcome
  const asked: AskedAccount = { service: param(event, 'service'), sealed, label, owner }
  // After the number sign, where no server and no log sees it.
  return sendRedirect(event, `${page}#${Buffer.from(JSON.stringify(asked)).toString('base64url')}`)
})
