import { defineDeskCall } from '../../../../http/member'
import { notFound } from '../../../../http/problem'
import { currentSession } from '../../../../http/session'
import { endOtherDevices } from '../../../../people'

export default defineDeskCall('POST /api/desk/account/devices/end-others', async (event, context, member) => {
  const current = currentSession(event, context)
  if (!current) throw notFound()
  await endOtherDevices(context, member, current)
  return { ended: true }
})
