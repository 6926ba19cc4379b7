import { savedWordingSchema } from '../../../../../../core/views/messages'
import { saveWording } from '../../../../../messages'
import { readBodyOf } from '../../../../../http/body'
import { defineDeskCall } from '../../../../../http/member'
import { messageParam } from '../../../../../http/message-param'
import { invalid, notFound, problem } from '../../../../../http/problem'

export default defineDeskCall('PUT /api/desk/messages/{occasion}/{audience}', async (event, context, member) => {
  const message = await messageParam(event, context, member.workspaceId)
  const outcome = await saveWording(context, member, message, await readBodyOf(event, savedWordingSchema))
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'changedMeanwhile': throw problem('changedMeanwhile', 'wordingChanged', {})
    case 'invalid': throw invalid(422, outcome.faults.map(({ part, line, fault }) => ({ path: part, line, ...fault })))
    case 'saved': return { version: outcome.version }
  }
})
