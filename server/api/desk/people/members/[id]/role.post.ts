import { readBodyOf } from '../../../../../http/body'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound, problem } from '../../../../../http/problem'
import { roleSchema } from '../../../../../http/requests'
import { changeRole } from '../../../../../people'

export default defineDeskCall('POST /api/desk/people/members/{id}/role', async (event, context, member) => {
  const { role } = await readBodyOf(event, roleSchema)
  const outcome = await changeRole(context, member.workspaceId, idParam(event, 'id'), role)
  if (outcome === 'notFound') throw notFound()
  if (outcome === 'lastOwner') throw problem('notPossible', 'lastOwner', {})
  return { role }
})
