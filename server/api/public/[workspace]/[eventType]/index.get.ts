import { eventTypePage } from '../../../../event-types'
import { defineCall } from '../../../../http/define'
import { eventTypeOfPath } from '../../../../http/public'

export default defineCall('GET /api/public/{workspace}/{eventType}', async (event, context) => {
  const { snapshot, eventType } = await eventTypeOfPath(event, context)
  return eventTypePage(snapshot, eventType)
})
