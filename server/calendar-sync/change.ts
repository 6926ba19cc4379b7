import { and, eq, inArray, ne, or } from 'drizzle-orm'
import type { CalendarChange } from '../../core/views/calendars'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { LockBusy, withLock } from '../database/lock'
import { calendars, eventTypes, receivingCalendars } from '../database/schema'
import { planJob } from '../jobs/queue'
import { planHostEntries } from './entries'
import { extend, loadCalendars } from './look'
import { loadAccount, lockOf } from './schedule'
import { type CalendarRow, lockHost, raiseStamp } from './store'

/** What hosts decide on their calendars: whether they block, what they receive, and how they are read. */

export type ChangeOutcome = 'changed' | 'notFound' | 'notWritable' | 'unknownEventType'

/** Changes what a calendar is for, and how it is read. */
export async function changeCalendar(
  context: Context, workspaceId: string, id: string, { receivesFor, ...change }: CalendarChange,
): Promise<ChangeOutcome> {
  const { db } = context
  const isCalendar = and(eq(calendars.workspaceId, workspaceId), eq(calendars.id, id))
  const outcome = await db.transaction(async (tx) => {
    const [before] = await tx.select().from(calendars).where(isCalendar)
    if (!before) return 'notFound'
    await lockHost(tx, workspaceId, before.hostId)
    if (change.receives) {
      if (!before.writable) return 'notWritable'
      await tx.update(calendars).set({ receives: false })
        .where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.hostId, before.hostId), ne(calendars.id, id)))
    }
    if (receivesFor) {
      if (!before.writable && receivesFor.length > 0) return 'notWritable'
      if (!await setReceivesFor(tx, before, [...new Set(receivesFor)])) return 'unknownEventType'
    }
    const isRead = change.timeZone !== undefined && change.timeZone !== before.timeZone
    const values = Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined))
    if (Object.keys(values).length > 0)
      await tx.update(calendars).set({ ...values, ...(isRead ? { reachesTo: null } : {}) }).where(isCalendar)
    await raiseStamp(tx, before)
    if (change.receives || receivesFor) await planHostEntries({ db: tx, now: context.now }, workspaceId, before.hostId)
    return isRead ? { accountId: before.accountId } : 'changed'
  })
  if (typeof outcome === 'string') return outcome
  await readAnew(context, workspaceId, outcome.accountId)
  return 'changed'
}

/** The event types whose sessions a calendar receives in place of any other of its host. False where one does not exist. */
async function setReceivesFor(tx: Database, { workspaceId, hostId, id }: CalendarRow, eventTypeIds: readonly string[]): Promise<boolean> {
  const known = await tx.$count(eventTypes, and(eq(eventTypes.workspaceId, workspaceId), inArray(eventTypes.id, [...eventTypeIds])))
  if (known < eventTypeIds.length) return false
  await tx.delete(receivingCalendars).where(and(
    eq(receivingCalendars.workspaceId, workspaceId), eq(receivingCalendars.hostId, hostId),
    or(eq(receivingCalendars.calendarId, id), inArray(receivingCalendars.eventTypeId, [...eventTypeIds])),
  ))
  if (eventTypeIds.length > 0)
    await tx.insert(receivingCalendars).values(eventTypeIds.map(eventTypeId => ({ workspaceId, hostId, eventTypeId, calendarId: id })))
  return true
}

/** Works out all times of an account whose calendars are read otherwise from now on. */
async function readAnew(context: Context, workspaceId: string, accountId: string): Promise<void> {
  try {
    await withLock(context.pool, lockOf(accountId), async () => {
      const account = await loadAccount(context.db, { workspaceId, id: accountId })
      if (!account) return
      for (const calendar of await loadCalendars(context, account)) await extend(context, account, calendar)
    })
  } catch (error) {
    if (!(error instanceof LockBusy)) throw error
    await planJob(context.db, 'lookAtCalendars', { workspaceId, id: accountId }, context.now() + 1)
  }
}

/** What a host's zone, which has changed, means for calendars that say none. */
export async function readHostAnew({ db, now }: Pick<Context, 'db' | 'now'>, workspaceId: string, hostId: string): Promise<void> {
  const changed = await db.update(calendars).set({ reachesTo: null })
    .where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.hostId, hostId))).returning({ accountId: calendars.accountId })
  for (const accountId of new Set(changed.map(calendar => calendar.accountId)))
    await planJob(db, 'lookAtCalendars', { workspaceId, id: accountId }, now())
}
