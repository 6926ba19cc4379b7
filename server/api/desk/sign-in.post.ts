import { z } from 'zod'
import { countTry } from '../../http/limits'
import { refuseForeignWrites } from '../../http/member'
import { defineCall, invalid, readBodyOf } from '../../http/problem'
import { signIn } from '../../people'

export const signInSchema = z.strictObject({
  email: z.string().trim().min(1, 'Write your address').max(254),
  password: z.string().min(1, 'Write your password').max(200),
})

export default defineCall(async (event, context) => {
  refuseForeignWrites(event)
  const { email, password } = await readBodyOf(event, signInSchema)
  await countTry(event, context, 'signIn', email.toLowerCase().slice(0, 100))
  const member = await signIn(context.db, email, password)
  if (!member) throw invalid(422, [{ path: 'password', message: 'The address and the password do not belong together' }])
  await setUserSession(event, { user: { workspaceId: member.workspaceId, memberId: member.memberId } })
  return member
})
