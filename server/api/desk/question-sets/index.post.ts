import { editedSetSchema } from '../../../../core/intake/question-sets'
import { createQuestionSet } from '../../../event-types'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { refuse } from '../../../http/problem'

export default defineDeskCall('POST /api/desk/question-sets', async (event, context, member) => {
  const outcome = await createQuestionSet(context, member.workspaceId, await readBodyOf(event, editedSetSchema))
  if (outcome.kind === 'tooMany') throw refuse(422, 'name', 'tooManyQuestionSets', { most: outcome.most })
  return { id: outcome.id }
})
