import { addedMessageSchema } from '../../../../core/views/messages'
import { addOwnMessage } from '../../../messages'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { notFound, refuse } from '../../../http/problem'

export default defineDeskCall('POST /api/desk/own-messages', async (event, context, member) => {
  const { eventType, definition } = await readBodyOf(event, addedMessageSchema)
  const outcome = await addOwnMessage(context, member, eventType, definition)
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'tooMany': throw refuse(422, '', 'tooManyMessages', { most: outcome.most })
    case 'added': return { id: outcome.id }
  }
})
