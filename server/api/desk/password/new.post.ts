import { readBodyOf } from '../../../http/body'
import { defineCall } from '../../../http/define'
import { enforceRateLimit, forgetFailedSignIns } from '../../../http/limits'
import { refuseForeignWrites } from '../../../http/member'
import { notFound, refuse } from '../../../http/problem'
import { newPasswordSchema } from '../../../http/requests'
import { signInHere } from '../../../http/session'
import { resetPassword } from '../../../people'

export default defineCall('POST /api/desk/password/new', async (event, context) => {
  refuseForeignWrites(event, context)
  await enforceRateLimit(event, context, 'token')
  const { token, password } = await readBodyOf(event, newPasswordSchema)
  const outcome = await resetPassword(context, token, password)
  switch (outcome.kind) {
    case 'notFound':
      throw notFound('linkUnknown')
    case 'weak':
      throw refuse(422, 'password', outcome.fault.code, outcome.fault.values)
    case 'reset':
      await forgetFailedSignIns(context, outcome.email)
      if (outcome.member) await signInHere(event, context, outcome.member)
      return { member: outcome.member }
  }
})
