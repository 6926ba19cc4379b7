import { previewRequestSchema } from '../../../../../../core/views/messages'
import { sendTest } from '../../../../../messages'
import { readBodyOf } from '../../../../../http/body'
import { enforceRateLimit } from '../../../../../http/limits'
import { defineDeskCall } from '../../../../../http/member'
import { messageParam } from '../../../../../http/message-param'
import { notFound, problem } from '../../../../../http/problem'

export default defineDeskCall('POST /api/desk/messages/{occasion}/{audience}/test', async (event, context, member) => {
  const message = await messageParam(event, context, member.workspaceId)
  const request = await readBodyOf(event, previewRequestSchema)
  await enforceRateLimit(event, context, 'testMail', member.memberId)
  const outcome = await sendTest(context, member, message, request)
  switch (outcome.kind) {
    case 'notFound': throw notFound()
    case 'faulty': throw problem('notPossible', 'wordingFaulty', {})
    case 'noNumber': throw problem('notPossible', 'noOwnNumber', {})
    case 'unconfirmed': throw problem('notPossible', 'confirmFirst', {})
    case 'notSent': throw problem('notPossible', 'testNotSent', {})
    case 'sent': return { to: outcome.to }
  }
})
