import { z } from 'zod'
import { archiveEventType } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, readBodyOf } from '../../../../http/problem'

const archiveSchema = z.strictObject({ archived: z.boolean() })

export default defineDeskCall('changeEventTypes', async (event, context, member) => {
  const { archived } = await readBodyOf(event, archiveSchema)
  if (!await archiveEventType(context, member.workspaceId, idParam(event, 'id'), archived)) throw notFound()
  return { archived }
})
