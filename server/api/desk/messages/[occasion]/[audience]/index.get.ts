import { getQuery } from 'h3'
import { viewWording } from '../../../../../messages'
import { defineDeskCall } from '../../../../../http/member'
import { messageParam } from '../../../../../http/message-param'
import { check, notFound } from '../../../../../http/problem'
import { messagesQuerySchema } from '../../../../../http/requests'

export default defineDeskCall('GET /api/desk/messages/{occasion}/{audience}', async (event, context, member) => {
  const { eventType } = check(messagesQuerySchema, getQuery(event))
  const found = await viewWording(context, member.workspaceId, eventType ?? null, await messageParam(event, context, member.workspaceId))
  if (!found) throw notFound()
  return found
})
