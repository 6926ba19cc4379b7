import pg from 'pg'
import type { Context } from './context'
import { connect } from './database/connection'
import { migrateDatabase } from './database/migrate'
import { listenToSessions } from './database/session-changes'
import { type CalendarReader, directReader } from './ports/calendar-reader'
import { createCalendarPort } from './ports/calendar/services'
import { smtpMail } from './ports/mail/smtp'
import { makeOutside } from './ports/outside'
import { createPaymentServices } from './ports/payment/services'
import { httpPhoneTexts } from './ports/phone-text/http'
import { createVideoServices } from './ports/video/services'
import { readSettings } from './settings'

/** A job holds one connection while it works and another where it writes, and the queue has its own. */
const JOB_CONNECTIONS = 50

/** Everything a process needs before it can work: settings, a database at the newest schema, the ways out. */
export async function makeContext(
  environment: Readonly<Record<string, string | undefined>>, calendarReader: CalendarReader = directReader,
): Promise<Context> {
  const settings = readSettings(environment)
  const { pool, db } = connect(settings.databaseUrl, settings.role === 'jobs' ? JOB_CONNECTIONS : undefined)
  // A migration takes as long as it takes, and so does waiting for another process that migrates: no time-outs here.
  const migrating = new pg.Pool({ connectionString: settings.databaseUrl, max: 2 })
  migrating.on('error', () => {}).on('connect', client => client.on('error', () => {}))
  await migrateDatabase(migrating, settings.migrations).finally(() => migrating.end())
  const outside = makeOutside({ allowedHosts: new Set(settings.allowedHosts) })
  return {
    db,
    pool,
    settings,
    sessionChanges: listenToSessions(settings.databaseUrl),
    mail: smtpMail(settings.smtpUrl, settings.mailTimeoutSeconds, settings.mailSigning),
    payments: createPaymentServices(settings.paymentEnvironment, settings.videoTimeoutSeconds),
    phoneTexts: settings.phoneTexts && httpPhoneTexts(settings.phoneTexts, settings.mailTimeoutSeconds),
    video: createVideoServices(settings.videoEnvironment, settings.videoTimeoutSeconds),
    outside,
    calendars: createCalendarPort(outside),
    calendarReader,
    now: () => Math.floor(Date.now() / 1000),
  }
}

export async function closeContext(context: Context): Promise<void> {
  context.mail.close()
  await Promise.all([context.outside.close(), context.calendarReader.close(), context.sessionChanges.close()])
  await context.pool.end()
}
