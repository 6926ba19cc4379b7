import { z } from 'zod'
import { keptPlanSchema } from '../../../../../core/hours/plan'
import { changeHours } from '../../../../hours'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, Problem, readBodyOf } from '../../../../http/problem'

export const hoursSchema = z.strictObject({
  basedOn: z.int().min(1),
  name: z.string().trim().min(1, 'Give the hours a name').max(80, 'At most 80 characters'),
  plan: keptPlanSchema,
})

export default defineDeskCall('seeHours', async (event, context, member) => {
  const outcome = await changeHours(context, member, idParam(event, 'id'), await readBodyOf(event, hoursSchema))
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'notYours': throw new Problem(403, 'Not allowed', 'As a host you can change your own hours only; ask the workspace’s owner.')
    case 'changedMeanwhile': throw new Problem(409, 'Changed meanwhile', 'Somebody else has changed these hours since you opened them. Nothing of theirs was overwritten; load the page again to see them.')
    case 'kept': return { version: outcome.version }
  }
})
