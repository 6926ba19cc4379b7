import { reachesDelivery } from '../../../../booking'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem } from '../../../../http/problem'
import { sendAgain } from '../../../../messages'

export default defineDeskCall('POST /api/desk/deliveries/{id}/send', async (event, context, member) => {
  const id = idParam(event, 'id')
  if (!await reachesDelivery(context.db, member, id)) throw notFound()
  if (!(await sendAgain(context, member.workspaceId, id)))
    throw problem('notPossible', 'messageDone', {})
  return { planned: true }
})
