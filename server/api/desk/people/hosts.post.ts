import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { newHostSchema } from '../../../http/requests'
import { addHost } from '../../../people'

export default defineDeskCall('POST /api/desk/people/hosts', async (event, context, member) =>
  ({ id: await addHost(context, member.workspaceId, await readBodyOf(event, newHostSchema)) }))
