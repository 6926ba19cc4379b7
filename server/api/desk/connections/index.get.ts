import { defineDeskCall } from '../../../http/member'
import { listConnections } from '../../../rooms'

export default defineDeskCall('GET /api/desk/connections', async (_event, { db, settings, video }, member) => ({
  services: [...video].map(([key, { name }]) => ({ key, name })),
  calendarServers: settings.calendarServers.map(({ key, name }) => ({ key, name })),
  hosts: await listConnections(db, member),
}))
