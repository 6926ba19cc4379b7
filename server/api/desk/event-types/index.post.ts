import { newEventType } from '../../../event-types'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { problem } from '../../../http/problem'
import { newEventTypeSchema } from '../../../http/requests'

export default defineDeskCall('POST /api/desk/event-types', async (event, context, member) => {
  const { name, shape } = await readBodyOf(event, newEventTypeSchema)
  const id = await newEventType(context, member, name, shape)
  if (!id) throw problem('notPossible', 'nobodyHosts', {})
  return { id }
})
