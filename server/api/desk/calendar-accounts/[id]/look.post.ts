import { listAccounts, lookAgain } from '../../../../calendar-sync'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/calendar-accounts/{id}/look', async (event, context, member) => {
  const id = idParam(event, 'id')
  if (await lookAgain(context, { workspaceId: member.workspaceId, id }) === 'busy') throw problem('notPossible', 'beingLookedAt', {})
  const [account] = await listAccounts(context.db, member, id)
  if (!account) throw notFound()
  return account
})
