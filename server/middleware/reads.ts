import { enforceReadLimit } from '../http/limits'
import { answerProblem } from '../http/problem'

/**
 * Clients' pages and what they read are counted by source; files, the desk and calls that write are not: those have
 * limits of their own.
 */
const PUBLIC = /^\/(?!_nuxt\/|desk(\/|$)|api\/desk\/|health\/|mark\.svg)/

export default defineEventHandler(async (event) => {
  const { app } = event.context
  const writes = event.path.startsWith('/api/') && event.method !== 'GET' && event.method !== 'HEAD'
  if (!app || writes || !PUBLIC.test(event.path)) return
  try {
    await enforceReadLimit(event, app)
  } catch (error) {
    return answerProblem(event, error)
  }
})
