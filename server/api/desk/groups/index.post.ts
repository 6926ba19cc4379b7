import { editedGroupSchema } from '../../../../core/event-type/groups'
import { createGroup } from '../../../event-types'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { invalid } from '../../../http/problem'

export default defineDeskCall('POST /api/desk/groups', async (event, context, member) => {
  const outcome = await createGroup(context, member.workspaceId, await readBodyOf(event, editedGroupSchema))
  if (outcome.kind === 'invalid') throw invalid(422, outcome.errors)
  return { id: outcome.id }
})
