import { answerProblem, Problem } from '../http/problem'

/** A process that runs jobs only answers whoever supervises it, and nobody else. */
export default defineEventHandler((event) => {
  if (event.context.app?.settings.role !== 'jobs' || event.path.startsWith('/health/')) return
  return answerProblem(event, new Problem(404, 'Not found', 'This process runs jobs and answers no requests.'))
})
