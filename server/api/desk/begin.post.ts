import { completeOnboarding } from '../../onboarding'
import { readBodyOf } from '../../http/body'
import { defineDeskCall } from '../../http/member'
import { notFound, problem } from '../../http/problem'
import { beginSchema } from '../../http/requests'

export default defineDeskCall('POST /api/desk/begin', async (event, context, member) => {
  const outcome = await completeOnboarding(context, member, await readBodyOf(event, beginSchema))
  switch (outcome.kind) {
    case 'hostsNothing':
      throw notFound('hostsNothing')
    case 'completedBefore':
      throw problem('setUpAlready', 'beganAlready', {}, { created: outcome.created })
    case 'completed':
      return outcome.created
  }
})
