import { dropDraft } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'

export default defineDeskCall('DELETE /api/desk/event-types/{id}/draft', async (event, context, member) => {
  await dropDraft(context.db, member.workspaceId, idParam(event, 'id'), member.memberId)
  return { saved: false }
})
