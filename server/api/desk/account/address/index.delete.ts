import { defineDeskCall } from '../../../../http/member'
import { dropAddressChange } from '../../../../people'

export default defineDeskCall('DELETE /api/desk/account/address', async (_event, context, member) => {
  await dropAddressChange(context, member)
  return { dropped: true }
})
