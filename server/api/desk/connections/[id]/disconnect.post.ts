import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'
import { dropAccount } from '../../../../rooms'

export default defineDeskCall('POST /api/desk/connections/{id}/disconnect', async (event, { db }, member) => {
  if (!await dropAccount(db, member, idParam(event, 'id'))) throw notFound()
  return { disconnected: true }
})
