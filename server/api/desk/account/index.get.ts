import { defineDeskCall } from '../../../http/member'
import { notFound } from '../../../http/problem'
import { viewAccount } from '../../../people'

export default defineDeskCall('GET /api/desk/account', async (_event, context, member) => {
  const account = await viewAccount(context, member)
  if (!account) throw notFound()
  return account
})
