import program from '#calendar-thread'
import { constants, setPriority } from 'node:os'
import { threadReader } from '../ports/calendar-reader'
import { taskListFor } from '../handlers'
import { startWorker } from '../jobs/worker'
import { logFault } from '../log'
import { closeContext, makeContext } from '../start'

/** Connects, migrates and starts the jobs where this process runs them; requests wait until that is done. */
export default defineNitroPlugin((nitroApp) => {
  if (import.meta.prerender) return
  const started = start().catch((error) => {
    // Settings and migrations hold nothing personal, and whoever starts the process must read what is wrong.
    console.error(error instanceof Error ? error.message : error)
    process.exit(1)
  })
  nitroApp.hooks.hook('request', async (event) => {
    if (event.path === '/health/live') return
    const { context } = await started
    event.context.app = context
  })
  nitroApp.hooks.hook('close', async () => {
    const { context, worker } = await started
    await worker?.stop()
    await closeContext(context)
  })
})

async function start() {
  const context = await makeContext(process.env, threadReader(program))
  // Whoever waits for a page goes before mails and rooms on the same machine.
  if (context.settings.role === 'jobs') setPriority(constants.priority.PRIORITY_BELOW_NORMAL)
  return { context, worker: context.settings.role === 'web' ? null : await startWorker(context, taskListFor(context, logFault), logFault) }
}
