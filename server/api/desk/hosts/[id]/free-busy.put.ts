import { freeBusySchema } from '../../../../../core/views/host'
import { setFreeBusy } from '../../../../calendars'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'

export default defineDeskCall('PUT /api/desk/hosts/{id}/free-busy', async (event, context, { workspaceId }) => {
  const { withCalendars } = await readBodyOf(event, freeBusySchema)
  const addresses = await setFreeBusy(context, workspaceId, idParam(event, 'id'), withCalendars)
  if (!addresses) throw notFound()
  return addresses
})
