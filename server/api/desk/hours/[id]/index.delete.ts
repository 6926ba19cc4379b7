import { deleteHours } from '../../../../hosts-time'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem } from '../../../../http/problem'

export default defineDeskCall('DELETE /api/desk/hours/{id}', async (event, context, { workspaceId }) => {
  switch (await deleteHours(context, workspaceId, idParam(event, 'id'))) {
    case 'deleted': return { deleted: true }
    case 'notFound': throw notFound()
    case 'isDefault': throw problem('notPossible', 'planIsDefault', {})
    case 'inUse': throw problem('notPossible', 'planInUse', {})
  }
})
