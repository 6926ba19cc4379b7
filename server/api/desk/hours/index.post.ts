import { hasRight } from '../../../../core/account/rights'
import { createHours, reachesHours } from '../../../hosts-time'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { notFound, problem, refuse } from '../../../http/problem'
import { newHoursSchema } from '../../../http/requests'

export default defineDeskCall('POST /api/desk/hours', async (event, context, member) => {
  const body = await readBodyOf(event, newHoursSchema)
  if (body.shared && !hasRight(member.role, 'changeEventTypes')) throw problem('notAllowed', 'roleNotAllowed', { role: member.role })
  if (!await reachesHours(context.db, member, body.like, 'see')) throw notFound()
  if (!await reachesHours(context.db, member, body.like, 'change')) throw problem('notAllowed', 'ownHoursOnly', {})
  const outcome = await createHours(context, member.workspaceId, body)
  switch (outcome.kind) {
    case 'created': return { id: outcome.id }
    case 'tooMany': throw refuse(422, 'like', 'tooManyPlans', { most: outcome.most })
    case 'notFound': throw notFound()
  }
})
