import { listVersions } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('GET /api/desk/event-types/{id}/versions', async (event, context, member) => {
  const versions = await listVersions(context.db, member.workspaceId, idParam(event, 'id'))
  // Every event type has a first version.
  if (versions.length === 0) throw notFound()
  return versions
})
