import { and, asc, count, desc, eq, inArray, or } from 'drizzle-orm'
import type { Settings } from '../../core/event-type/settings'
import { type StoredPlan, planFault } from '../../core/hours/plan'
import type { InputFault } from '../../core/validation'
import { DAY } from '../../core/time/civil'
import type { HoursRow, HoursView, SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { chairGroups, chairHosts, chairs, eventTypes, groupHosts, hosts, hoursPlans } from '../database/schema'
import { holidayDates } from './holidays'

/** The hours plans of hosts. */

/** All plans of the workspace, one's own first. */
export async function listHours({ db }: Context, member: SignedIn): Promise<HoursRow[]> {
  const rows = await db
    .select({
      id: hoursPlans.id,
      name: hoursPlans.name,
      plan: hoursPlans.plan,
      isDefault: hoursPlans.isDefault,
      host: hosts.name,
      memberId: hosts.memberId,
    })
    .from(hoursPlans)
    .innerJoin(hosts, and(eq(hosts.workspaceId, hoursPlans.workspaceId), eq(hosts.id, hoursPlans.hostId)))
    .where(eq(hoursPlans.workspaceId, member.workspaceId))
    .orderBy(asc(hosts.name), desc(hoursPlans.isDefault), asc(hoursPlans.name))
  return rows
    .map(({ memberId, ...row }) => ({ ...row, own: memberId === member.memberId }))
    .sort((a, b) => Number(b.own) - Number(a.own))
}

const chairsOfHost = (db: Database, workspaceId: string, hostId: string) =>
  db.select({ id: chairHosts.chairId }).from(chairHosts).where(and(eq(chairHosts.workspaceId, workspaceId), eq(chairHosts.hostId, hostId)))

const chairsOfHostByGroup = (db: Database, workspaceId: string, hostId: string) =>
  db.select({ id: chairGroups.chairId }).from(chairGroups)
    .innerJoin(groupHosts, and(eq(groupHosts.workspaceId, chairGroups.workspaceId), eq(groupHosts.groupId, chairGroups.groupId)))
    .where(and(eq(chairGroups.workspaceId, workspaceId), eq(groupHosts.hostId, hostId)))

/** Two years of holidays, for the year strip. */
const HOLIDAY_DAYS = 366

export async function viewHours({ db, now }: Context, member: SignedIn, id: string): Promise<HoursView | null> {
  const { workspaceId } = member
  const [found] = await db.select({ plan: hoursPlans, host: hosts }).from(hoursPlans)
    .innerJoin(hosts, and(eq(hosts.workspaceId, hoursPlans.workspaceId), eq(hosts.id, hoursPlans.hostId)))
    .where(and(eq(hoursPlans.workspaceId, workspaceId), eq(hoursPlans.id, id)))
  if (!found) return null
  const seats = await db.selectDistinct({ id: eventTypes.id, settings: eventTypes.settings, archivedAt: eventTypes.archivedAt })
    .from(chairs)
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, chairs.workspaceId), eq(eventTypes.id, chairs.eventTypeId)))
    .where(and(eq(chairs.workspaceId, workspaceId), eq(chairs.active, true), or(
      inArray(chairs.id, chairsOfHost(db, workspaceId, found.host.id)),
      inArray(chairs.id, chairsOfHostByGroup(db, workspaceId, found.host.id)),
    )))
  return {
    id,
    name: found.plan.name,
    version: found.plan.version,
    isDefault: found.plan.isDefault,
    plan: found.plan.plan,
    host: { id: found.host.id, name: found.host.name, timeZone: found.host.timeZone },
    mayChange: member.role !== 'host' || found.host.memberId === member.memberId,
    usedBy: seats
      .filter(seat => seat.archivedAt === null && applies(found.plan, seat.settings.hours))
      .map(seat => ({ id: seat.id, name: seat.settings.name, narrowed: seat.settings.hours.mode === 'narrow' })),
    holidays: holidayDates(found.plan.plan.holidays, now(), now() + HOLIDAY_DAYS * DAY),
    now: now(),
  }
}

type Plan = typeof hoursPlans.$inferSelect

/** Whether a plan is the one of its host's that applies to an event type. */
function applies(plan: Plan, hours: Settings['hours']): boolean {
  if (hours.mode === 'replace') return false
  const named = hours.hostPlans?.[plan.hostId]
  return named === undefined ? plan.isDefault : named === plan.id
}

/** Why a member may not change a plan. */
export type PlanRefusal = { kind: 'notFound' } | { kind: 'notYours' }

export type HoursOutcome =
  PlanRefusal | { kind: 'saved', version: number } | { kind: 'changedMeanwhile' } | { kind: 'invalid', errors: InputFault[] }

/** Changes a plan over the version it was read in. Hosts may change their own only. */
export async function changeHours(
  { db, now }: Context, member: SignedIn, id: string, change: { basedOn: number, name: string, plan: StoredPlan },
): Promise<HoursOutcome> {
  const found = await findChangeable(db, member, id)
  if ('kind' in found) return found
  const fault = planFault(change.plan, Math.floor(now() / DAY))
  if (fault) return { kind: 'invalid', errors: [{ ...fault, path: `plan.${fault.path}` }] }
  const [updated] = await db.update(hoursPlans).set({ name: change.name, plan: change.plan, version: change.basedOn + 1 })
    .where(and(isPlan(found), eq(hoursPlans.version, change.basedOn))).returning({ version: hoursPlans.version })
  return updated ? { kind: 'saved', version: updated.version } : { kind: 'changedMeanwhile' }
}

const MOST_PLANS = 20

/** Creates a plan for the host of another one, like it. */
export async function createHours(
  { db }: Context,
  member: SignedIn,
  like: string,
  name: string,
): Promise<PlanRefusal | { kind: 'created', id: string } | { kind: 'tooMany', most: number }> {
  const found = await findChangeable(db, member, like)
  if ('kind' in found) return found
  const { workspaceId, hostId, plan } = found
  return db.transaction(async (tx) => {
    await tx
      .select({ id: hosts.id })
      .from(hosts)
      .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
      .for('no key update')
    const [known] = await tx
      .select({ plans: count() })
      .from(hoursPlans)
      .where(and(eq(hoursPlans.workspaceId, workspaceId), eq(hoursPlans.hostId, hostId)))
    if ((known?.plans ?? 0) >= MOST_PLANS) return { kind: 'tooMany', most: MOST_PLANS }
    const [created] = await tx.insert(hoursPlans).values({ workspaceId, hostId, name, plan }).returning({ id: hoursPlans.id })
    if (!created) throw new Error('The hours were not saved')
    return { kind: 'created', id: created.id }
  })
}

/** Makes a plan the one that applies to all event types that name no other of its host's. */
export async function makeDefault({ db }: Context, member: SignedIn, id: string): Promise<PlanRefusal | { kind: 'isDefault' }> {
  const found = await findChangeable(db, member, id)
  if ('kind' in found) return found
  const { workspaceId, hostId } = found
  return db.transaction(async (tx) => {
    // The bookings under way are computed from the hours as they were.
    await tx.select({ id: hosts.id }).from(hosts).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId))).for('no key update')
    await tx
      .update(hoursPlans)
      .set({ isDefault: false })
      .where(and(eq(hoursPlans.workspaceId, workspaceId), eq(hoursPlans.hostId, hostId), eq(hoursPlans.isDefault, true)))
    await tx.update(hoursPlans).set({ isDefault: true }).where(isPlan(found))
    return { kind: 'isDefault' }
  })
}

/** A plan that the member may change. Hosts may change their own only. */
async function findChangeable(db: Database, member: SignedIn, id: string): Promise<Plan | PlanRefusal> {
  const [found] = await db.select({ plan: hoursPlans, memberId: hosts.memberId }).from(hoursPlans)
    .innerJoin(hosts, and(eq(hosts.workspaceId, hoursPlans.workspaceId), eq(hosts.id, hoursPlans.hostId)))
    .where(isPlan({ workspaceId: member.workspaceId, id }))
  if (!found) return { kind: 'notFound' }
  return member.role === 'host' && found.memberId !== member.memberId ? { kind: 'notYours' } : found.plan
}

function isPlan({ workspaceId, id }: { workspaceId: string, id: string }) {
  return and(eq(hoursPlans.workspaceId, workspaceId), eq(hoursPlans.id, id))
}
