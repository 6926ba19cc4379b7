import { readBodyOf } from '../../../http/body'
import { enforceRateLimit } from '../../../http/limits'
import { defineDeskCall } from '../../../http/member'
import { problem } from '../../../http/problem'
import { newWorkspaceSchema } from '../../../http/requests'
import { signInHere } from '../../../http/session'
import { createAnotherWorkspace } from '../../../people'

export default defineDeskCall('POST /api/desk/workspaces', async (event, context, member) => {
  const { name } = await readBodyOf(event, newWorkspaceSchema)
  if (!member.confirmed) throw problem('notPossible', 'confirmFirst', {})
  await enforceRateLimit(event, context, 'signUp')
  const there = await createAnotherWorkspace(context, member, name)
  await signInHere(event, context, there)
  return there
})
