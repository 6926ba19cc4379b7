import { and, eq, gt, inArray, lt } from 'drizzle-orm'
import { enginePlan } from '../../core/hours/plan'
import type { QueryHost } from '../../core/openings'
import { DAY, formatInstant } from '../../core/time/civil'
import { groupBy } from '../../core/timetable/group'
import { dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { holidayDates } from '../hours'
import { hoursPlans, sessionHosts, sessions } from '../database/schema'

/** Limits count whole ISO weeks and buffers reach a day out, so sessions are read this far around a span. */
const AROUND = 9 * DAY

/** What is known of hosts' time, whichever event type asks. */
export interface HostsTime {
  /** The hosts of an event type in the order of their ids here, as the engine takes them. */
  for: (eventTypeId: string, hostIds: readonly string[]) => QueryHost[]
}

/** What is known of hosts' time for starts within [from, to): one query a table. */
export async function loadHostsTime(db: Database, workspaceId: string, hostIds: readonly string[], from: number, to: number): Promise<HostsTime> {
  if (hostIds.length === 0) return { for: () => [] }
  const plans = await db.select({ hostId: hoursPlans.hostId, plan: hoursPlans.plan }).from(hoursPlans)
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
  const holidays = holidayDates(plans.flatMap(plan => plan.plan.holidays), from, to)
  const plansOf = groupBy(plans.map(plan => ({ hostId: plan.hostId, plan: enginePlan(plan.plan, holidays) })), item => item.hostId)
  const takenOf = groupBy(taken, row => row.hostId)
  return {
    for: (eventTypeId, wanted) => wanted.map(id => ({
      id,
      plans: (plansOf.get(id) ?? []).map(plan => plan.plan),
      busy: [],
      sessions: (takenOf.get(id) ?? []).map(session => ({
        id: session.id,
        start: formatInstant(secondsOf(session.startsAt)),
        end: formatInstant(secondsOf(session.endsAt)),
        bufferBeforeMinutes: session.before,
        bufferAfterMinutes: session.after,
        sameEventType: session.eventTypeId === eventTypeId,
        seatsTaken: session.seatsTaken,
      })),
    })),
  }
}
