import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'
import { sendAgain } from '../../../../messages'

export default defineDeskCall('POST /api/desk/deliveries/{id}/send', async (event, context, member) => {
  const id = idParam(event, 'id')
  if (!(await sendAgain(context, member.workspaceId, id)))
    throw problem('notPossible', 'messageDone', {})
  return { planned: true }
})
