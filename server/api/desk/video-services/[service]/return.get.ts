import { getQuery, sendRedirect } from 'h3'
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
  // After the number sign, where no server and no log sees it.
  const rest = kind === 'foreign' ? `#${new URLSearchParams({ service: param(event, 'service'), sealed: outcome.sealed, label: outcome.label, owner: outcome.owner ?? '' })}` : ''
  return sendRedirect(event, page + rest)
})
