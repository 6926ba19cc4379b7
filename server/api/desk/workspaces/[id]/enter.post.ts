import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'
import { signInHere } from '../../../../http/session'
import { memberIn } from '../../../../people'

export default defineDeskCall('POST /api/desk/workspaces/{id}/enter', async (event, context, member) => {
  const there = await memberIn(context, member, idParam(event, 'id'))
  if (!there) throw notFound()
  await signInHere(event, context, there)
  return there
})
