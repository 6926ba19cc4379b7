import { changedMessageSchema } from '../../../../../core/views/messages'
import { changeOwnMessage } from '../../../../messages'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem, refuse } from '../../../../http/problem'

export default defineDeskCall('PUT /api/desk/own-messages/{id}', async (event, context, member) => {
  const { basedOn, definition } = await readBodyOf(event, changedMessageSchema)
  switch (await changeOwnMessage(context, member.workspaceId, idParam(event, 'id'), basedOn, definition)) {
    case 'notFound': throw notFound()
    case 'changedMeanwhile': throw problem('changedMeanwhile', 'wordingChanged', {})
    case 'otherReaders': throw refuse(422, 'definition.to', 'twoSides', {})
    case 'otherWay': throw refuse(422, 'definition.by', 'wayIsFixed', {})
    case 'saved': return { version: basedOn + 1 }
  }
})
