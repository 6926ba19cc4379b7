import { defineDeskCall } from '../../../../http/member'
import { notFound } from '../../../../http/problem'
import { currentSession } from '../../../../http/session'
import { listDevices } from '../../../../people'

export default defineDeskCall('GET /api/desk/account/devices', async (event, context, member) => {
  const current = currentSession(event, context)
  if (!current) throw notFound()
  return listDevices(context, member, current)
})
