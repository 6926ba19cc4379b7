import { completeOnboarding } from '../../onboarding'
import { readBodyOf } from '../../http/body'
import { defineDeskCall } from '../../http/member'
import { notFound, Problem } from '../../http/problem'
import { beginSchema } from '../../http/requests'

export default defineDeskCall('POST /api/desk/begin', async (event, context, member) => {
  const outcome = await completeOnboarding(context, member, await readBodyOf(event, beginSchema))
  switch (outcome.kind) {
    case 'hostsNothing':
      throw notFound('You host nothing in this workspace, so there are no hours to set.')
    case 'completedBefore':
      throw new Problem('setUpAlready', 'Your first event type is there already; nothing was changed.', { created: outcome.created })
    case 'completed':
      return outcome.created
  }
})
