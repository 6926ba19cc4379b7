import { refuseForeignWrites } from '../../http/member'
import { defineCall } from '../../http/problem'

export default defineCall(async (event) => {
  refuseForeignWrites(event)
  await clearUserSession(event)
  return { signedOut: true }
})
