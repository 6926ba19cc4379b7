import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, problem, refuse } from '../../../../http/problem'
import { newPlaceSchema } from '../../../../http/requests'
import { changePlace } from '../../../../rooms'

export default defineDeskCall('PUT /api/desk/sessions/{id}/place', async (event, context, { workspaceId, name }) => {
  const place = await readBodyOf(event, newPlaceSchema)
  const outcome = await changePlace(context, workspaceId, idParam(event, 'id'), { key: 'byHand', label: '', ...place }, { kind: 'member', name })
  if (outcome.kind === 'noNumber') throw refuse(422, 'kind', 'placeNoNumber', { clients: outcome.clients })
  if (outcome.kind === 'noPlaceToChange') throw problem('nothingToTry', 'noPlaceToChange', {})
  return { changed: true }
})
