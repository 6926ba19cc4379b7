import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { param, problem } from '../../../../http/problem'
import { acceptedAccountSchema } from '../../../../http/requests'
import { acceptForeignAccount } from '../../../../rooms'

/** Saves an account whose address is not the host's, once the member has said that it is theirs all the same. */
export default defineDeskCall('POST /api/desk/video-services/{service}/accept', async (event, context, member) => {
  const { sealed } = await readBodyOf(event, acceptedAccountSchema)
  if (!await acceptForeignAccount(context, member, param(event, 'service'), sealed)) throw problem('consentUnknown', 'consentUnknown', {})
  return { connected: true }
})
