import { workspacePage } from '../../../event-types'
import { defineCall } from '../../../http/problem'
import { workspaceOfPath } from '../../../http/public'

export default defineCall(async (event, context) => workspacePage(context.db, await workspaceOfPath(event, context)))
