import { listAccounts } from '../../../calendar-sync'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('GET /api/desk/calendar-accounts', async (_event, { db }, member) => ({ accounts: await listAccounts(db, member) }))
