import { archiveEventType } from '../../../../event-types'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'
import { archiveSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/event-types/{id}/archive', async (event, context, member) => {
  const { archived } = await readBodyOf(event, archiveSchema)
  if (!await archiveEventType(context, member.workspaceId, idParam(event, 'id'), archived)) throw notFound()
  return { archived }
})
