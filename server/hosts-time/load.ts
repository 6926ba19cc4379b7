import { and, eq, gt, inArray, lt } from 'drizzle-orm'
import { enginePlan } from '../../core/hours/plan'
import type { HostTime } from '../../core/event-type/host-time'
import { DAY } from '../../core/time/civil'
import { groupBy } from '../../core/timetable/group'
import { dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { hoursPlans, sessionHosts, sessions } from '../database/schema'
import { holidayDates } from './holidays'

/** Limits count whole ISO weeks and buffers reach a day out, so sessions are read this far around a span. */
const AROUND = 9 * DAY

/** What is known of hosts' time, whichever event type asks. */
export interface HostsTime {
  /** The hosts of an event type in the order of their ids here, as the engine takes them. */
  for: (eventTypeId: string, hostIds: readonly string[]) => HostTime[]
}

/** What is known of hosts' time for starts within [from, to): one query a table. */
export async function loadHostsTime(db: Database, workspaceId: string, hostIds: readonly string[], from: number, to: number): Promise<HostsTime> {
  if (hostIds.length === 0) return { for: () => [] }
  const plans = await db.select({ id: hoursPlans.id, hostId: hoursPlans.hostId, isDefault: hoursPlans.isDefault, plan: hoursPlans.plan }).from(hoursPlans)
    .where(and(eq(hoursPlans.workspaceId, workspaceId), inArray(hoursPlans.hostId, [...hostIds])))
  const taken = await db
    .select({
      hostId: sessionHosts.hostId,
      id: sessions.id,
      startsAt: sessions.startsAt,
      endsAt: sessions.endsAt,
      before: sessions.bufferBeforeMinutes,
      after: sessions.bufferAfterMinutes,
      seatsTaken: sessions.seatsTaken,
      eventTypeId: sessions.eventTypeId,
    })
    .from(sessionHosts)
    .innerJoin(sessions, and(eq(sessions.workspaceId, sessionHosts.workspaceId), eq(sessions.id, sessionHosts.sessionId)))
    .where(and(
      eq(sessionHosts.workspaceId, workspaceId),
      inArray(sessionHosts.hostId, [...hostIds]),
      eq(sessionHosts.active, true),
      lt(sessions.startsAt, dateOf(to + AROUND)),
      gt(sessions.endsAt, dateOf(from - AROUND)),
    ))
  const holidays = holidayDates(plans.flatMap(row => row.plan.holidays), from, to)
  const plansByHost = groupBy(plans, row => row.hostId)
  const takenByHost = groupBy(taken, row => row.hostId)
  return {
    for: (eventTypeId, wanted) => wanted.map(id => ({
      id,
      plans: (plansByHost.get(id) ?? []).map(row => ({ id: row.id, isDefault: row.isDefault, plan: enginePlan(row.plan, holidays) })),
      busy: [],
      sessions: (takenByHost.get(id) ?? []).map(row => ({
        id: row.id,
        start: secondsOf(row.startsAt),
        end: secondsOf(row.endsAt),
        bufferBeforeMinutes: row.before,
        bufferAfterMinutes: row.after,
        sameEventType: row.eventTypeId === eventTypeId,
        seatsTaken: row.seatsTaken,
      })),
    })),
  }
}
