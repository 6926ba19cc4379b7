import { previewRequestSchema } from '../../../../../../core/views/messages'
import { previewWording } from '../../../../../messages'
import { readBodyOf } from '../../../../../http/body'
import { defineDeskCall } from '../../../../../http/member'
import { messageParam } from '../../../../../http/message-param'
import { notFound } from '../../../../../http/problem'

export default defineDeskCall('POST /api/desk/messages/{occasion}/{audience}/preview', async (event, context, member) => {
  const message = await messageParam(event, context, member.workspaceId)
  const preview = await previewWording(context, member, message, await readBodyOf(event, previewRequestSchema))
  if (!preview) throw notFound()
  return preview
})
