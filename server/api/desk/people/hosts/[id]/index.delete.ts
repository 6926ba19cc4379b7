import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound } from '../../../../../http/problem'
import { removeHost } from '../../../../../people'

export default defineDeskCall('DELETE /api/desk/people/hosts/{id}', async (event, context, member) => {
  const id = idParam(event, 'id')
  const outcome = await removeHost(context, member.workspaceId, id, member.name)
  if (outcome.kind === 'notFound') throw notFound()
  return { closed: outcome.kind === 'left' ? outcome.closed : [] }
})
