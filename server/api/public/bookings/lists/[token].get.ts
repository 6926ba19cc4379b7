import { viewClientList } from '../../../../booking'
import { defineCall } from '../../../../http/define'
import { param } from '../../../../http/problem'
import { unknownToken } from '../../../../http/token'

export default defineCall('GET /api/public/bookings/lists/{token}', async (event, context) => {
  return await viewClientList(context, param(event, 'token')) ?? unknownToken(event, context)
})
