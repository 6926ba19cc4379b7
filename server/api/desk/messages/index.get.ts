import { getQuery } from 'h3'
import { viewMessages } from '../../../messages'
import { defineDeskCall } from '../../../http/member'
import { check, notFound } from '../../../http/problem'
import { messagesQuerySchema } from '../../../http/requests'

export default defineDeskCall('GET /api/desk/messages', async (event, context, member) => {
  const { eventType } = check(messagesQuerySchema, getQuery(event))
  const view = await viewMessages(context, member.workspaceId, eventType ?? null)
  if (!view) throw notFound()
  return view
})
