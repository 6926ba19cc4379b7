import { makeDefault } from '../../../../hosts-time'
import { defineDeskCall } from '../../../../http/member'
import { idParam, planProblem } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/hours/{id}/default', async (event, context, member) => {
  const outcome = await makeDefault(context, member, idParam(event, 'id'))
  if (outcome.kind !== 'isDefault') throw planProblem(outcome)
  return { isDefault: true }
})
