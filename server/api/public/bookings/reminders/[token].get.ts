import { defineCall } from '../../../../http/define'
import { param } from '../../../../http/problem'
import { unknownToken } from '../../../../http/token'
import { remindersWanted } from '../../../../messages'

export default defineCall('GET /api/public/bookings/reminders/{token}', async (event, context) => {
  return await remindersWanted(context, param(event, 'token')) ?? unknownToken(event, context)
})
