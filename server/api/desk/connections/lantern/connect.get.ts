import { getQuery, sendRedirect } from 'h3'
import { defineDeskCall } from '../../../../http/member'
import { check, Problem } from '../../../../http/problem'
import { connectQuerySchema } from '../../../../http/requests'
import { mayConnect, RETURN_PATH, sealConsent } from '../../../../rooms'

export default defineDeskCall('connectAccounts', async (event, { db, settings, video, now }, member) => {
  const { host } = check(connectQuerySchema, getQuery(event))
  if (!await mayConnect(db, member, host)) throw new Problem(403, 'Not allowed', 'You can connect your own video account only.')
  if (!video.lantern) throw new Problem(409, 'Not possible', 'No address of Lantern Rooms is set for this installation.')
  const state = sealConsent(settings.secret, { workspaceId: member.workspaceId, memberId: member.memberId, hostId: host, until: now() + 900 })
  return sendRedirect(event, video.lantern.consentUrl(settings.baseUrl + RETURN_PATH, state))
})
