import { getQuery, sendRedirect } from 'h3'
import { defineDeskCall } from '../../../../http/member'
import { check, notFound, param, problem } from '../../../../http/problem'
import { connectQuerySchema } from '../../../../http/requests'
import { mayConnect, returnPath, sealConsent } from '../../../../rooms'

export default defineDeskCall('GET /api/desk/video-services/{service}/connect', async (event, { db, settings, video, now }, member) => {
  const key = param(event, 'service')
  const { host } = check(connectQuerySchema, getQuery(event))
  const connection = video.get(key)?.connection
  if (connection?.way !== 'consent') throw notFound()
  if (!await mayConnect(db, member, host)) throw problem('notAllowed', 'ownAccountOnly', {})
  const state = sealConsent(settings.secret, {
    workspaceId: member.workspaceId,
    memberId: member.memberId,
    hostId: host,
    service: key,
    until: now() + 900,
  })
  return sendRedirect(event, connection.consentUrl(settings.baseUrl + returnPath(key), state))
})
