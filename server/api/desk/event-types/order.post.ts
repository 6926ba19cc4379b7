import { z } from 'zod'
import { orderEventTypes } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'
import { invalid, readBodyOf } from '../../../http/problem'

const orderSchema = z.strictObject({ ids: z.array(z.uuid()).max(1000, 'At most 1,000 event types') })

export default defineDeskCall('changeEventTypes', async (event, context, member) => {
  const { ids } = await readBodyOf(event, orderSchema)
  if (!await orderEventTypes(context, member.workspaceId, ids)) throw invalid(422, [{ path: 'ids', message: 'There is no such event type' }])
  return { ids }
})
