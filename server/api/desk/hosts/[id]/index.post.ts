import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, problem, refuse } from '../../../../http/problem'
import { changedHostSchema } from '../../../../http/requests'
import { updateHost } from '../../../../people'

export default defineDeskCall('POST /api/desk/hosts/{id}', async (event, context, { workspaceId }) => {
  const outcome = await updateHost(context, workspaceId, idParam(event, 'id'), await readBodyOf(event, changedHostSchema))
  switch (outcome.kind) {
    case 'saved': return { version: outcome.version }
    case 'changedMeanwhile': throw problem('changedMeanwhile', 'hostChanged', {})
    case 'addressTaken': throw refuse(422, 'slug', 'addressTaken', { name: outcome.name })
  }
})
