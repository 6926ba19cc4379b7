import { eventTypePage, loadOpenEventType } from '../../../../event-types'
import { defineCall, notFound, param } from '../../../../http/problem'

export default defineCall(async (event, { db }) => {
  const found = await loadOpenEventType(db, param(event, 'workspace'), param(event, 'eventType'))
  if (!found) throw notFound()
  return eventTypePage(db, found.workspace, found.eventType)
})
