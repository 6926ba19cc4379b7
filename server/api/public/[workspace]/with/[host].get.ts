import { hostPage } from '../../../../event-types'
import { defineCall } from '../../../../http/define'
import { notFound, param } from '../../../../http/problem'
import { workspaceOfPath } from '../../../../http/public'

export default defineCall('GET /api/public/{workspace}/with/{host}', async (event, context) => {
  const page = await hostPage(context, await workspaceOfPath(event, context), param(event, 'host'))
  if (!page) throw notFound()
  return page
})
