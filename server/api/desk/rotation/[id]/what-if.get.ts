import { loadWhatIf } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('GET /api/desk/rotation/{id}/what-if', async (event, context, member) => {
  const data = await loadWhatIf(context, member.workspaceId, idParam(event, 'id'))
  if (!data) throw notFound()
  return data
})
