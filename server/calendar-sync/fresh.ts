import { and, eq, exists, isNull, lt, ne, or, sql } from 'drizzle-orm'
import { type Context, dateOf, secondsOf } from '../context'
import { among } from '../database/among'
import { LockBusy } from '../database/lock'
import { calendarAccounts, calendars } from '../database/schema'
import type { JobSubject } from '../jobs/queue'
import type { Urgent } from './look'
import { loadAccount, lookNow } from './schedule'

/** The look just before a booking is made: what stands in the calendars of those who may be chosen by now. */

/** A look that is no older counts. */
const FRESH_SECONDS = 60
/** Whoever books waits no longer; then what was last known holds. */
const PATIENCE_MS = 1500
const ASK_AGAIN_MS = 100

/** A look that bookings of this process wait for: whoever began it for its span, all others for the whole of it. */
interface Look {
  span: string
  reached: Promise<void>
  whole: Promise<void>
}

const underWay = new Map<string, Look>()

/** Brings the calendars of some hosts up to date for a span, as far as that is done in time. */
export async function refreshCalendars(
  context: Context, workspaceId: string, hostIds: readonly string[], span: { from: number, to: number },
): Promise<void> {
  const stale = await staleAccounts(context, workspaceId, hostIds)
  if (stale.length === 0) return
  let timer: NodeJS.Timeout | undefined
  const patience = new Promise<void>((resolve) => {
    timer = setTimeout(resolve, PATIENCE_MS)
  })
  const looks = stale.map((id) => {
    const look = underWay.get(id) ?? beginLook(context, { workspaceId, id }, span)
    return look.span === nameOf(span) ? look.reached : look.whole
  })
  await Promise.race([Promise.all(looks), patience]).finally(() => clearTimeout(timer))
}

const nameOf = ({ from, to }: { from: number, to: number }) => `${from} ${to}`

function beginLook(context: Context, subject: JobSubject, span: { from: number, to: number }): Look {
  let reached = () => {}
  const first = new Promise<void>((resolve) => {
    reached = resolve
  })
  const whole = lookUnlessBusy(context, subject, { ...span, reached }).catch(() => {}).finally(() => {
    underWay.delete(subject.id)
    reached()
  })
  const look = { span: nameOf(span), reached: first, whole }
  underWay.set(subject.id, look)
  return look
}

/** Accounts with a blocking calendar that were not looked at for a while; none that fail, which are asked again by themselves. */
async function staleAccounts({ db, now }: Context, workspaceId: string, hostIds: readonly string[]): Promise<string[]> {
  const found = await db.select({ id: calendarAccounts.id }).from(calendarAccounts).where(and(
    eq(calendarAccounts.workspaceId, workspaceId), among(calendarAccounts.hostId, hostIds),
    eq(calendarAccounts.state, 'connected'), ne(calendarAccounts.kind, 'file'),
    or(isNull(calendarAccounts.lookedAt), lt(calendarAccounts.lookedAt, dateOf(now() - FRESH_SECONDS))),
    exists(db.select({ one: sql`1` }).from(calendars).where(and(
      eq(calendars.workspaceId, calendarAccounts.workspaceId), eq(calendars.accountId, calendarAccounts.id), eq(calendars.blocks, true),
    ))),
  ))
  return found.map(({ id }) => id)
}

/** Looks, or waits for whoever is at it. */
async function lookUnlessBusy(context: Context, subject: JobSubject, urgent: Urgent): Promise<void> {
  const since = context.now()
  const deadline = Date.now() + PATIENCE_MS
  for (;;) {
    try {
      await lookNow(context, subject, urgent)
      return
    } catch (error) {
      if (!(error instanceof LockBusy)) throw error
    }
    await new Promise(resolve => setTimeout(resolve, ASK_AGAIN_MS))
    const account = await loadAccount(context.db, subject)
    if (!account || (account.lookedAt && secondsOf(account.lookedAt) >= since) || Date.now() > deadline) return
  }
}
