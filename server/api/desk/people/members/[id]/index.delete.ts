import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound, problem } from '../../../../../http/problem'
import { removeMember } from '../../../../../people'

export default defineDeskCall('DELETE /api/desk/people/members/{id}', async (event, context, member) => {
  const outcome = await removeMember(context, member.workspaceId, idParam(event, 'id'), member.name)
  if (outcome.kind === 'notFound') throw notFound()
  if (outcome.kind === 'lastOwner') throw problem('notPossible', 'lastOwner', {})
  return { closed: outcome.closed }
})
