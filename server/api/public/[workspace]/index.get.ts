import { workspacePage } from '../../../event-types'
import { defineCall, notFound, param } from '../../../http/problem'

export default defineCall(async (event, { db }) => {
  const page = await workspacePage(db, param(event, 'workspace'))
  if (!page) throw notFound()
  return page
})
