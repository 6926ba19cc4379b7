import { readBodyOf } from '../../../../http/body'
import { enforceRateLimit } from '../../../../http/limits'
import { defineDeskCall } from '../../../../http/member'
import { problem, refuse } from '../../../../http/problem'
import { newAddressSchema } from '../../../../http/requests'
import { askForAddress } from '../../../../people'

export default defineDeskCall('POST /api/desk/account/address', async (event, context, member) => {
  const { email, password } = await readBodyOf(event, newAddressSchema)
  await enforceRateLimit(event, context, 'signIn', member.email)
  switch (await askForAddress(context, member, email, password)) {
    case 'wrongPassword': throw refuse(422, 'password', 'wrongOwnPassword', {})
    case 'sameAddress': throw refuse(422, 'email', 'sameAddress', {})
    case 'notConfirmed': throw problem('notPossible', 'confirmFirst', {})
    case 'asked': return { sent: true }
  }
})
