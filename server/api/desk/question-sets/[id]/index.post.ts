import { changeQuestionSet } from '../../../../event-types'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, invalid, notFound, problem } from '../../../../http/problem'
import { changedSetSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/question-sets/{id}', async (event, context, member) => {
  const { basedOn, ...set } = await readBodyOf(event, changedSetSchema)
  const outcome = await changeQuestionSet(context, member.workspaceId, idParam(event, 'id'), basedOn, set)
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'changedMeanwhile': throw problem('changedMeanwhile', 'questionSetChanged', {})
    case 'invalid': throw invalid(422, outcome.errors)
    case 'saved': return { version: outcome.version }
  }
})
