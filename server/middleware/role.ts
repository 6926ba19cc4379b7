import { answerProblem, problem } from '../http/problem'

/** A process that runs jobs only answers whoever supervises it, and nobody else. */
export default defineEventHandler((event) => {
  if (event.context.app?.settings.role !== 'jobs' || event.path.startsWith('/health/')) return
  return answerProblem(event, problem('notFound', 'jobsOnly', {}))
})
