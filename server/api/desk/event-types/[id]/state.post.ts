import { setEventTypeState } from '../../../../event-types'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound } from '../../../../http/problem'
import { stateSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/event-types/{id}/state', async (event, context, member) => {
  const { state } = await readBodyOf(event, stateSchema)
  if (!await setEventTypeState(context, member.workspaceId, idParam(event, 'id'), member.name, state)) throw notFound()
  return { state }
})
