import { getQuery } from 'h3'
import { loadWhatIf } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { check, idParam, notFound } from '../../../../http/problem'
import { whatIfQuerySchema } from '../../../../http/requests'

export default defineDeskCall('GET /api/desk/rotation/{id}/what-if', async (event, context, { workspaceId }) => {
  const { hosts } = check(whatIfQuerySchema, getQuery(event))
  const data = await loadWhatIf(context, workspaceId, idParam(event, 'id'), hosts)
  if (!data) throw notFound()
  return data
})
