import { orderEventTypes } from '../../../event-types'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { refuse } from '../../../http/problem'
import { orderSchema } from '../../../http/requests'

export default defineDeskCall('POST /api/desk/event-types/order', async (event, context, member) => {
  const { ids } = await readBodyOf(event, orderSchema)
  if (!(await orderEventTypes(context, member.workspaceId, ids)))
    throw refuse(422, 'ids', 'unknownEventType', {})
  return { ids }
})
