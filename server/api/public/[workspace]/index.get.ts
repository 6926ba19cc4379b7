import { workspacePage } from '../../../event-types'
import { defineCall } from '../../../http/define'
import { workspaceOfPath } from '../../../http/public'

export default defineCall('GET /api/public/{workspace}', async (event, context) =>
  workspacePage(context, await workspaceOfPath(event, context)))
