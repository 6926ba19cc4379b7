import { followEntry } from '../../../../../booking'
import { defineDeskCall } from '../../../../../http/member'
import { idParam, problem } from '../../../../../http/problem'

export default defineDeskCall('POST /api/desk/sessions/{id}/entry/follow', async (event, context, { workspaceId, name }) => {
  const outcome = await followEntry(context, workspaceId, idParam(event, 'id'), { kind: 'member', name })
  if (outcome === 'unchanged') throw problem('nothingToTry', 'entryUnchanged', {})
  if (outcome === 'inTheWay') throw problem('notPossible', 'sessionInTheWay', {})
  return { followed: true }
})
