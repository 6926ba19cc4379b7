import { changeGroup } from '../../../../event-types'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, invalid, notFound, problem } from '../../../../http/problem'
import { changedGroupSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/groups/{id}', async (event, context, member) => {
  const { basedOn, ...group } = await readBodyOf(event, changedGroupSchema)
  const outcome = await changeGroup(context, member.workspaceId, idParam(event, 'id'), basedOn, group)
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'changedMeanwhile': throw problem('changedMeanwhile', 'groupChanged', {})
    case 'invalid': throw invalid(422, outcome.errors)
    case 'saved': return { version: outcome.version }
  }
})
