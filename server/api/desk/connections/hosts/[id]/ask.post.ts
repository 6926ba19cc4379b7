import { defineDeskCall } from '../../../../../http/member'
import { idParam, notFound, problem } from '../../../../../http/problem'
import { askToConnect } from '../../../../../people'

export default defineDeskCall('POST /api/desk/connections/hosts/{id}/ask', async (event, context, member) => {
  const outcome = await askToConnect(context, member, idParam(event, 'id'))
  if (outcome === 'notFound') throw notFound()
  if (outcome === 'askedAlready') throw problem('tooManyTries', 'askedAlready', {})
  return { asked: true }
})
