import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'
import { newPlaceSchema } from '../../../../http/requests'
import { changePlace } from '../../../../rooms'

export default defineDeskCall('PUT /api/desk/sessions/{id}/place', async (event, context, { workspaceId, name }) => {
  const place = await readBodyOf(event, newPlaceSchema)
  const isDone = await changePlace(context, workspaceId, idParam(event, 'id'), { key: 'byHand', label: '', ...place }, { kind: 'member', name })
  if (!isDone) throw problem('nothingToTry', 'noPlaceToChange', {})
  return { changed: true }
})
