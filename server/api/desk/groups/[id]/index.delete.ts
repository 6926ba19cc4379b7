import { deleteGroup } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem } from '../../../../http/problem'

export default defineDeskCall('DELETE /api/desk/groups/{id}', async (event, context, member) => {
  const outcome = await deleteGroup(context, member.workspaceId, idParam(event, 'id'))
  if (outcome.kind === 'notFound') throw notFound()
  if (outcome.kind === 'inUse') throw problem('notPossible', 'groupInUse', { eventTypes: outcome.eventTypes })
  return { deleted: true }
})
