import { and, asc, eq } from 'drizzle-orm'
import { type StoredPlan, planFault } from '../../core/hours/plan'
import type { FieldError } from '../../core/intake'
import { DAY } from '../../core/time/civil'
import type { HoursRow, HoursView, SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import { chairHosts, chairs, eventTypes, hosts, hoursPlans } from '../database/schema'
import { holidayDates } from './holidays'

/** The hours plans of hosts. */

/** All plans of the workspace, one's own first. */
export async function listHours({ db }: Context, member: SignedIn): Promise<HoursRow[]> {
  const rows = await db.select({ id: hoursPlans.id, name: hoursPlans.name, plan: hoursPlans.plan, host: hosts.name, memberId: hosts.memberId })
    .from(hoursPlans)
    .innerJoin(hosts, and(eq(hosts.workspaceId, hoursPlans.workspaceId), eq(hosts.id, hoursPlans.hostId)))
    .where(eq(hoursPlans.workspaceId, member.workspaceId))
    .orderBy(asc(hosts.name), asc(hoursPlans.name))
  return rows
    .map(({ memberId, ...row }) => ({ ...row, own: memberId === member.memberId }))
    .sort((a, b) => Number(b.own) - Number(a.own))
}

/** Two years of holidays, for the year strip. */
const HOLIDAY_DAYS = 366

export async function viewHours({ db, now }: Context, member: SignedIn, id: string): Promise<HoursView | null> {
  const { workspaceId } = member
  const [found] = await db.select({ plan: hoursPlans, host: hosts }).from(hoursPlans)
    .innerJoin(hosts, and(eq(hosts.workspaceId, hoursPlans.workspaceId), eq(hosts.id, hoursPlans.hostId)))
    .where(and(eq(hoursPlans.workspaceId, workspaceId), eq(hoursPlans.id, id)))
  if (!found) return null
  const seats = await db.selectDistinct({ id: eventTypes.id, settings: eventTypes.settings, archivedAt: eventTypes.archivedAt })
    .from(chairHosts)
    .innerJoin(chairs, and(eq(chairs.workspaceId, chairHosts.workspaceId), eq(chairs.id, chairHosts.chairId), eq(chairs.active, true)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, chairs.workspaceId), eq(eventTypes.id, chairs.eventTypeId)))
    .where(and(eq(chairHosts.workspaceId, workspaceId), eq(chairHosts.hostId, found.host.id)))
  return {
    id,
    name: found.plan.name,
    version: found.plan.version,
    plan: found.plan.plan,
    host: { id: found.host.id, name: found.host.name, timeZone: found.host.timeZone },
    mayChange: member.role !== 'host' || found.host.memberId === member.memberId,
    usedBy: seats.filter(seat => seat.archivedAt === null && seat.settings.hours.mode !== 'replace').map(seat => ({ id: seat.id, name: seat.settings.name, narrowed: seat.settings.hours.mode === 'narrow' })),
    holidays: holidayDates(found.plan.plan.holidays, now(), now() + HOLIDAY_DAYS * DAY),
    now: now(),
  }
}

export type HoursOutcome = { kind: 'saved', version: number } | { kind: 'notFound' } | { kind: 'notYours' } | { kind: 'changedMeanwhile' } | { kind: 'invalid', errors: FieldError[] }

/** Changes a plan over the version it was read in. Hosts may change their own only. */
export async function changeHours(
  { db, now }: Context, member: SignedIn, id: string, wanted: { basedOn: number, name: string, plan: StoredPlan },
): Promise<HoursOutcome> {
  const own = and(eq(hoursPlans.workspaceId, member.workspaceId), eq(hoursPlans.id, id))
  const [found] = await db.select({ memberId: hosts.memberId }).from(hoursPlans)
    .innerJoin(hosts, and(eq(hosts.workspaceId, hoursPlans.workspaceId), eq(hosts.id, hoursPlans.hostId))).where(own)
  if (!found) return { kind: 'notFound' }
  if (member.role === 'host' && found.memberId !== member.memberId) return { kind: 'notYours' }
  const fault = planFault(wanted.plan, Math.floor(now() / DAY))
  if (fault) return { kind: 'invalid', errors: [{ path: `plan.${fault.path}`, message: fault.message }] }
  const [updated] = await db.update(hoursPlans).set({ name: wanted.name, plan: wanted.plan, version: wanted.basedOn + 1 })
    .where(and(own, eq(hoursPlans.version, wanted.basedOn))).returning({ version: hoursPlans.version })
  return updated ? { kind: 'saved', version: updated.version } : { kind: 'changedMeanwhile' }
}
