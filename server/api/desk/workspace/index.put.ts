import { workspaceSettingsSchema } from '../../../../core/workspace'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { refuse } from '../../../http/problem'
import { updateWorkspace } from '../../../workspace'

export default defineDeskCall('PUT /api/desk/workspace', async (event, context, member) => {
  const outcome = await updateWorkspace(context, member.workspaceId, await readBodyOf(event, workspaceSettingsSchema))
  if (outcome === 'addressTaken') throw refuse(422, 'slug', 'workspaceAddressTaken', {})
  if (outcome === 'addressReserved') throw refuse(422, 'slug', 'workspaceAddressReserved', {})
  return { saved: true }
})
