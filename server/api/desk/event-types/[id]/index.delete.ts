import { deleteEventType } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem } from '../../../../http/problem'

export default defineDeskCall('DELETE /api/desk/event-types/{id}', async (event, context, member) => {
  const outcome = await deleteEventType(context, member.workspaceId, idParam(event, 'id'))
  if (outcome === 'notFound') throw notFound()
  if (outcome === 'booked') throw problem('notPossible', 'eventTypeBooked', {})
  return { deleted: true }
})
