import type { TaskList } from 'graphile-worker'
import type { Context } from './context'
import { isUnavailable } from './database/faults'
import { LockBusy } from './database/lock'
import { type JobName, type JobSubject, planJob, readJobSubject } from './jobs/queue'
import { type FaultReport, silent } from './log'
import { auditNightly } from './audit'
import { expireRequests, sendList } from './booking'
import { lookAtAccount, lookFailed, writeEntries, writingFailed } from './calendar-sync'
import { cleanUp } from './maintenance'
import { deliver, deliveryFailed, planOwnMessages, planReminders } from './messages'
import { checkPayment, closePayment, endHolds, paymentJobFailed, refundPayment } from './payments'
import { changeRoom, changingFailed, lookAtVideoAccount, makeRoom, planLooks, roomJobFailed, sweepRooms, warnOfMissingLinks, withdrawalFailed, withdrawRoom } from './rooms'

/** What runs for each kind of job. The queue itself knows none of it. */

interface Handler {
  run: (context: Context, subject: JobSubject) => Promise<void>
  /** Writes down an error that nobody foresaw where a person sees it, and plans the next try. */
  failed: (context: Context, subject: JobSubject, error: unknown) => Promise<void>
}

const handlers: Record<JobName, Handler> = {
  makeRoom: { run: makeRoom, failed: roomJobFailed },
  changeRoom: { run: changeRoom, failed: changingFailed },
  // Looked at again before long, whatever happened.
  lookAtVideoAccount: { run: lookAtVideoAccount, failed: async () => {} },
  withdrawRoom: { run: withdrawRoom, failed: withdrawalFailed },
  lookAtCalendars: { run: lookAtAccount, failed: lookFailed },
  writeEntries: { run: writeEntries, failed: writingFailed },
  // Tried again by the queue itself: nobody waits for it whom an error could be shown.
  sendList: { run: sendList, failed: async (_context, _subject, error) => Promise.reject(error) },
  deliver: { run: deliver, failed: deliveryFailed },
  checkPayment: { run: checkPayment, failed: async (_context, _subject, error) => Promise.reject(error) },
  closePayment: { run: closePayment, failed: (context, subject, error) => paymentJobFailed(context, 'closePayment', subject, error) },
  refundPayment: { run: refundPayment, failed: (context, subject, error) => paymentJobFailed(context, 'refundPayment', subject, error) },
}

/** Seconds after which a job is tried again whose lock somebody else held. */
const BUSY_WAIT_SECONDS = 2

export function taskListFor(context: Context, report: FaultReport = silent): TaskList {
  return {
    ...Object.fromEntries(Object.entries(handlers).map(([name, handler]) => [name, async (payload: unknown) => {
      const subject = readJobSubject(payload)
      try {
        await handler.run(context, subject)
      } catch (error) {
        if (error instanceof LockBusy) return planJob(context.db, asJobName(name), subject, context.now() + BUSY_WAIT_SECONDS)
        report(`Job ${name}`, error)
        // Nothing can be written down now; the queue itself tries again.
        if (isUnavailable(error)) throw error
        await handler.failed(context, subject, error)
      }
    }])),
    planReminders: async () => planReminders(context),
    planOwnMessages: async () => planOwnMessages(context),
    endHolds: async () => endHolds(context),
    expireRequests: async () => expireRequests(context),
    cleanUp: async () => cleanUp(context),
    lookAtVideoAccounts: async () => planLooks(context),
    warnOfMissingLinks: async () => warnOfMissingLinks(context),
    auditNightly: async () => auditNightly(context),
    sweepRooms: async () => void await sweepRooms(context),
  }
}

function asJobName(name: string): JobName {
  const found = Object.keys(handlers).find((handler): handler is JobName => handler === name)
  if (!found) throw new Error(`There is no job called ${name}`)
  return found
}
