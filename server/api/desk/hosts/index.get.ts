import { defineDeskCall } from '../../../http/member'
import { listHosts } from '../../../people'

export default defineDeskCall('GET /api/desk/hosts', async (_event, { db }, { workspaceId }) => ({ hosts: await listHosts(db, workspaceId) }))
