import { saveDraft } from '../../../../event-types'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'
import { publishSchema } from '../../../../http/requests'

export default defineDeskCall('PUT /api/desk/event-types/{id}/draft', async (event, context, member) => {
  const { basedOn, definition } = await readBodyOf(event, publishSchema)
  if (!await saveDraft(context, member.workspaceId, idParam(event, 'id'), member.memberId, basedOn, definition)) throw notFound()
  return { saved: true }
})
