import { defineDeskCall } from '../../../http/member'
import { listConnections } from '../../../rooms'

export default defineDeskCall('connectAccounts', async (_event, { db, video }, member) => ({
  service: video.lantern?.name ?? null,
  hosts: await listConnections(db, member.workspaceId),
}))
