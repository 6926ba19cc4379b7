import { duplicateEventType } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/event-types/{id}/duplicate', async (event, context, member) => {
  const id = await duplicateEventType(context, member.workspaceId, idParam(event, 'id'), member.name)
  if (!id) throw notFound()
  return { id }
})
