import { shareHours } from '../../../../hosts-time'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, problem, refuse } from '../../../../http/problem'
import { sharingSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/hours/{id}/hosts', async (event, context, { workspaceId }) => {
  const { hostIds } = await readBodyOf(event, sharingSchema)
  switch (await shareHours(context, workspaceId, idParam(event, 'id'), hostIds)) {
    case 'saved': return { saved: true }
    case 'notFound': throw notFound()
    case 'foreignHost': throw refuse(422, 'hostIds', 'unknownHost', { name: '' })
    case 'isDefault': throw problem('notPossible', 'planIsDefault', {})
  }
})
