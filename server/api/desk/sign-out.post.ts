import { refuseForeignWrites } from '../../http/member'
import { defineCall } from '../../http/define'
import { signOutHere } from '../../http/session'

export default defineCall('POST /api/desk/sign-out', async (event, context) => {
  refuseForeignWrites(event, context)
  await signOutHere(event, context)
  return { signedOut: true }
})
