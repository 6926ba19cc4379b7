import { keepDraft } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, readBodyOf } from '../../../../http/problem'
import { publishSchema } from './publish.post'

export default defineDeskCall('changeEventTypes', async (event, context, member) => {
  const { basedOn, definition } = await readBodyOf(event, publishSchema)
  if (!await keepDraft(context, member.workspaceId, idParam(event, 'id'), member.memberId, basedOn, definition)) throw notFound()
  return { kept: true }
})
