import { eventTypePage } from '../../../../event-types'
import { defineCall } from '../../../../http/problem'
import { eventTypeOfPath } from '../../../../http/public'

export default defineCall(async (event, context) => {
  const { workspace, eventType } = await eventTypeOfPath(event, context)
  return eventTypePage(context.db, workspace, eventType)
})
