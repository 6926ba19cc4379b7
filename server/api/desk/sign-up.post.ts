import { z } from 'zod'
import { emailSchema } from '../../../core/intake'
import { zoneName } from '../../../core/openings'
import { countTry } from '../../http/limits'
import { refuseForeignWrites } from '../../http/member'
import { defineCall, invalid, readBodyOf } from '../../http/problem'
import { signUp } from '../../people'

export const signUpSchema = z.strictObject({
  workspace: z.string().trim().min(1, 'Write what your business is called').max(120, 'At most 120 characters'),
  name: z.string().trim().min(1, 'Write your name').max(120, 'At most 120 characters'),
  email: emailSchema,
  password: z.string().min(10, 'At least 10 characters').max(200, 'At most 200 characters'),
  timeZone: zoneName,
})

export default defineCall(async (event, context) => {
  refuseForeignWrites(event)
  const wanted = await readBodyOf(event, signUpSchema)
  await countTry(event, context, 'signIn', 'sign-up')
  const outcome = await signUp(context.db, wanted)
  if ('errors' in outcome) throw invalid(422, outcome.errors)
  await setUserSession(event, { user: { workspaceId: outcome.member.workspaceId, memberId: outcome.member.memberId } })
  return outcome.member
})
