import { listVersions } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'

export default defineDeskCall('seeEventTypes', async (event, context, member) => listVersions(context.db, member.workspaceId, idParam(event, 'id')))
