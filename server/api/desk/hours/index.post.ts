import { createHours } from '../../../hosts-time'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { planProblem, refuse } from '../../../http/problem'
import { newHoursSchema } from '../../../http/requests'

export default defineDeskCall('POST /api/desk/hours', async (event, context, member) => {
  const { like, name } = await readBodyOf(event, newHoursSchema)
  const outcome = await createHours(context, member, like, name)
  switch (outcome.kind) {
    case 'created': return { id: outcome.id }
    case 'tooMany': throw refuse(422, 'like', 'tooManyPlans', { most: outcome.most })
    default: throw planProblem(outcome)
  }
})
