import { refuseForeignWrites } from '../../http/member'
import { defineCall } from '../../http/problem'
import { signOutHere } from '../../http/session'

export default defineCall(async (event, context) => {
  refuseForeignWrites(event, context)
  await signOutHere(event, context)
  return { signedOut: true }
})
