import { z } from 'zod'
import { newEventType } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'
import { readBodyOf } from '../../../http/problem'

const newSchema = z.strictObject({ name: z.string().trim().min(1, 'Give it a name').max(120, 'At most 120 characters') })

export default defineDeskCall('changeEventTypes', async (event, context, member) => {
  const { name } = await readBodyOf(event, newSchema)
  return { id: await newEventType(context, member, name) }
})
