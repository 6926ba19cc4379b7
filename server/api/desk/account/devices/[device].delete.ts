import { getRouterParam } from 'h3'
import { defineDeskCall } from '../../../../http/member'
import { notFound } from '../../../../http/problem'
import { endDevice } from '../../../../people'

export default defineDeskCall('DELETE /api/desk/account/devices/{device}', async (event, context, member) => {
  if (!await endDevice(context, member, getRouterParam(event, 'device') ?? '')) throw notFound()
  return { ended: true }
})
