import { getRouterParam, setResponseStatus } from 'h3'
import { contextOf } from '../../../http/define'
import { enforceRateLimit } from '../../../http/limits'
import { answerProblem, notFound } from '../../../http/problem'
import { setRemindersWanted } from '../../../messages'

/** Ends reminders by one click in a mail program (RFC 8058): it comes without a cookie, and from anywhere. */
export default defineEventHandler(async (event) => {
  const context = contextOf(event)
  try {
    if (await setRemindersWanted(context, getRouterParam(event, 'token') ?? '', false)) return setResponseStatus(event, 204)
    await enforceRateLimit(event, context, 'token')
    throw notFound()
  } catch (error) {
    return answerProblem(event, error)
  }
})
