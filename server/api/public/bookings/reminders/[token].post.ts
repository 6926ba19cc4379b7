import { readBodyOf } from '../../../../http/body'
import { defineCall } from '../../../../http/define'
import { param } from '../../../../http/problem'
import { remindersSchema } from '../../../../http/requests'
import { unknownToken } from '../../../../http/token'
import { setRemindersWanted } from '../../../../messages'

export default defineCall('POST /api/public/bookings/reminders/{token}', async (event, context) => {
  const { wanted } = await readBodyOf(event, remindersSchema)
  return await setRemindersWanted(context, param(event, 'token'), wanted) ?? unknownToken(event, context)
})
