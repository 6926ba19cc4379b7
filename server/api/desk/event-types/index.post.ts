import { newEventType } from '../../../event-types'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { newEventTypeSchema } from '../../../http/requests'

export default defineDeskCall('POST /api/desk/event-types', async (event, context, member) => {
  const { name, shape } = await readBodyOf(event, newEventTypeSchema)
  return { id: await newEventType(context, member, name, shape) }
})
