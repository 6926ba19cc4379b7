import { chooseDefault } from '../../../../hosts-time'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'
import { defaultHoursSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/hosts/{id}/default-hours', async (event, context, { workspaceId }) => {
  const { planId } = await readBodyOf(event, defaultHoursSchema)
  if (!await chooseDefault(context, workspaceId, idParam(event, 'id'), planId)) throw notFound()
  return { saved: true }
})
