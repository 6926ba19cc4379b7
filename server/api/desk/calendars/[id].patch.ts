import { calendarChangeSchema } from '../../../../core/views/calendars'
import { changeCalendar, findCalendar } from '../../../calendar-sync'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { idParam, notFound, refuse } from '../../../http/problem'

export default defineDeskCall('PATCH /api/desk/calendars/{id}', async (event, context, { workspaceId }) => {
  const id = idParam(event, 'id')
  const outcome = await changeCalendar(context, workspaceId, id, await readBodyOf(event, calendarChangeSchema))
  if (outcome === 'notWritable') throw refuse(422, 'receives', 'notWritable', {})
  if (outcome === 'unknownEventType') throw refuse(422, 'receivesFor', 'unknownEventType', {})
  const calendar = outcome === 'changed' ? await findCalendar(context.db, workspaceId, id) : null
  if (!calendar) throw notFound()
  return calendar
})
