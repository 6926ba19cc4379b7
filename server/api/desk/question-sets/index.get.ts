import { listQuestionSets } from '../../../event-types'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('GET /api/desk/question-sets', (_event, context, member) => listQuestionSets(context, member.workspaceId))
