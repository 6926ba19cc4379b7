import { enforceReadLimit } from '../http/limits'
import { answerProblem } from '../http/problem'

/** Clients' pages and what they read are counted by source; files and the desk are not. */
const PUBLIC = /^\/(?!_nuxt\/|desk(\/|$)|api\/desk\/|health\/|mark\.svg)/

export default defineEventHandler(async (event) => {
  const { app } = event.context
  if (!app || (event.method !== 'GET' && event.method !== 'HEAD') || !PUBLIC.test(event.path)) return
  try {
    await enforceReadLimit(event, app)
  } catch (error) {
    return answerProblem(event, error)
  }
})
