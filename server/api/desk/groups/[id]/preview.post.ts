import { editedGroupSchema } from '../../../../../core/event-type/groups'
import { previewGroup } from '../../../../event-types'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, invalid, notFound } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/groups/{id}/preview', async (event, context, member) => {
  const outcome = await previewGroup(context, member.workspaceId, idParam(event, 'id'), await readBodyOf(event, editedGroupSchema))
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'invalid': throw invalid(422, outcome.errors)
    case 'effects': return outcome.effects
  }
})
