import type { Context } from '../context'
import { connect } from '../database/connection'
import { migrateDatabase } from '../database/migrate'
import { startWorker, type Worker } from '../jobs/worker'
import { smtpMail } from '../ports/mail/smtp'
import { lanternRooms } from '../ports/video/lantern'
import { readSettings } from '../settings'

/** Connects, migrates and starts the jobs; requests wait until that is done. */
export default defineNitroPlugin((nitroApp) => {
  if (import.meta.prerender) return
  const started = start().catch((error) => {
    console.error(error instanceof Error ? error.message : error)
    process.exit(1)
  })
  nitroApp.hooks.hook('request', async (event) => {
    if (event.path === '/health/live') return
    event.context.app = (await started).context
  })
  nitroApp.hooks.hook('close', async () => {
    const { context, worker } = await started
    await worker.stop()
    context.mail.close()
    await context.pool.end()
  })
})

async function start(): Promise<{ context: Context, worker: Worker }> {
  const settings = readSettings(process.env)
  const { pool, db } = connect(settings.databaseUrl)
  await migrateDatabase(pool, settings.migrations)
  const context: Context = {
    db,
    pool,
    settings,
    mail: smtpMail(settings.smtpUrl, settings.mailTimeoutSeconds),
    video: { lantern: settings.lantern && lanternRooms({ ...settings.lantern, timeoutSeconds: settings.videoTimeoutSeconds }) },
    now: () => Math.floor(Date.now() / 1000),
  }
  return { context, worker: await startWorker(context, message => console.error(message)) }
}
