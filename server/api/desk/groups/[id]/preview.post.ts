import { editedGroupSchema } from '../../../../../core/event-type/groups'
import { previewGroup } from '../../../../event-types'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam } from '../../../../http/problem'

export default defineDeskCall('POST /api/desk/groups/{id}/preview', async (event, context, member) =>
  previewGroup(context, member.workspaceId, idParam(event, 'id'), await readBodyOf(event, editedGroupSchema)))
