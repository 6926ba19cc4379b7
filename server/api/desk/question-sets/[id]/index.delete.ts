import { deleteQuestionSet } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem } from '../../../../http/problem'

export default defineDeskCall('DELETE /api/desk/question-sets/{id}', async (event, context, member) => {
  const outcome = await deleteQuestionSet(context, member.workspaceId, idParam(event, 'id'))
  if (outcome.kind === 'notFound') throw notFound()
  if (outcome.kind === 'inUse') throw problem('notPossible', 'questionSetInUse', { eventTypes: outcome.eventTypes })
  return { deleted: true }
})
