import { changeHours } from '../../../../hosts-time'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, invalid, problem } from '../../../../http/problem'
import { hoursSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/hours/{id}', async (event, context, { workspaceId }) => {
  const outcome = await changeHours(context, workspaceId, idParam(event, 'id'), await readBodyOf(event, hoursSchema))
  switch (outcome.kind) {
    case 'invalid':
      throw invalid(422, outcome.errors)
    case 'changedMeanwhile':
      throw problem('changedMeanwhile', 'hoursChanged', {})
    case 'saved':
      return { version: outcome.version }
  }
})
