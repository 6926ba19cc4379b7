import { and, asc, eq, inArray, isNull, or } from 'drizzle-orm'
import { type Reach, reaches } from '../../core/account/rights'
import type { Settings } from '../../core/event-type/settings'
import { type StoredPlan, planFault } from '../../core/hours/plan'
import type { InputFault } from '../../core/validation'
import { DAY } from '../../core/time/civil'
import type { SignedIn } from '../../core/views/desk'
import type { HoursRow, HoursView } from '../../core/views/hours'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { chairGroups, chairHosts, chairs, eventTypes, groupHosts, hostPlans, hosts, hoursPlans } from '../database/schema'
import { holidayDates } from './holidays'

/** Hours plans: those of one host, and those of the workspace that several hosts and event types share. */

/** All plans that the member may see: one's own first, then the workspace's, then those of others. */
export async function listHours({ db }: Context, member: SignedIn): Promise<HoursRow[]> {
  const { workspaceId } = member
  const rows = await db
    .select({
      id: hoursPlans.id,
      name: hoursPlans.name,
      plan: hoursPlans.plan,
      host: hosts.name,
      memberId: hosts.memberId,
    })
    .from(hoursPlans)
    .leftJoin(hosts, and(eq(hosts.workspaceId, hoursPlans.workspaceId), eq(hosts.id, hoursPlans.hostId)))
    .where(and(eq(hoursPlans.workspaceId, workspaceId), isNull(hosts.leftAt), visibleTo(db, member)))
    .orderBy(asc(hosts.name), asc(hoursPlans.name))
  const using = await db.select({ planId: hostPlans.planId, isDefault: hostPlans.isDefault, host: hosts.name }).from(hostPlans)
    .innerJoin(hosts, and(eq(hosts.workspaceId, hostPlans.workspaceId), eq(hosts.id, hostPlans.hostId)))
    .where(and(eq(hostPlans.workspaceId, workspaceId), isNull(hosts.leftAt))).orderBy(asc(hosts.name))
  const rank = (row: HoursRow) => (row.own ? 0 : row.host === null ? 1 : 2)
  return rows
    .map(({ memberId, host, ...row }): HoursRow => {
      const users = using.filter(candidate => candidate.planId === row.id)
      return {
        ...row,
        host,
        own: memberId === member.memberId,
        isDefault: host !== null && users.some(user => user.isDefault),
        sharedBy: host === null ? users.map(user => user.host) : [],
      }
    })
    .sort((a, b) => rank(a) - rank(b) || Number(b.isDefault) - Number(a.isDefault))
}

/** Plans that a member may read: all, or their own and the workspace's. */
function visibleTo(db: Database, member: SignedIn) {
  return reaches(member.reach, { hours: 'see' }) ? undefined
    : or(isNull(hoursPlans.hostId), inArray(hoursPlans.hostId, hostOfMember(db, member)))
}

function hostOfMember(db: Database, { workspaceId, memberId }: SignedIn) {
  return db.select({ id: hosts.id }).from(hosts).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.memberId, memberId)))
}

/** Whether a member may see or change a plan. The workspace's is seen by all, and changed by whoever may change others' hours. */
export async function reachesHours(db: Database, member: SignedIn, id: string, needs: Reach['hours']): Promise<boolean> {
  const plan = isPlan({ workspaceId: member.workspaceId, id })
  const found = await db.select({ id: hoursPlans.id }).from(hoursPlans).where(and(
    plan,
    reaches(member.reach, { hours: needs }) && needs !== 'own' ? undefined : or(
      inArray(hoursPlans.hostId, hostOfMember(db, member)),
      needs === 'see' ? isNull(hoursPlans.hostId) : undefined,
    ),
  ))
  return found.length > 0
}

/** A year of holidays, for the year strip. */
const HOLIDAY_DAYS = 366

export async function viewHours({ db, now }: Context, member: SignedIn, id: string): Promise<HoursView | null> {
  const { workspaceId } = member
  const [found] = await db.select({ plan: hoursPlans, host: hosts }).from(hoursPlans)
    .leftJoin(hosts, and(eq(hosts.workspaceId, hoursPlans.workspaceId), eq(hosts.id, hoursPlans.hostId)))
    .where(isPlan({ workspaceId, id }))
  if (!found) return null
  const { plan, host } = found
  const users = await db.select({ id: hosts.id, name: hosts.name, isDefault: hostPlans.isDefault }).from(hostPlans)
    .innerJoin(hosts, and(eq(hosts.workspaceId, hostPlans.workspaceId), eq(hosts.id, hostPlans.hostId)))
    .where(and(eq(hostPlans.workspaceId, workspaceId), eq(hostPlans.planId, id), isNull(hosts.leftAt))).orderBy(asc(hosts.name))
  return {
    id,
    name: plan.name,
    version: plan.version,
    isDefault: host !== null && users.some(user => user.isDefault),
    plan: plan.plan,
    host: host && { id: host.id, name: host.name, timeZone: host.timeZone },
    sharedBy: host === null ? users : [],
    mayChange: await reachesHours(db, member, id, 'change'),
    usedBy: (await seatsOf(db, workspaceId, users.map(user => user.id)))
      .filter(({ settings: { hours }, hostIds }) =>
        isOwnOf(id, hours) || users.some(user => hostIds.has(user.id) && applies(id, user, hours)))
      .map(seat => ({ id: seat.id, name: seat.settings.name, narrowed: seat.settings.hours.mode === 'narrow' && !isOwnOf(id, seat.settings.hours) })),
    holidays: holidayDates(plan.plan.holidays, now(), now() + HOLIDAY_DAYS * DAY),
    now: now(),
  }
}

/** All event types that are not archived, with those of some hosts who sit in their chairs. */
async function seatsOf(db: Database, workspaceId: string, hostIds: string[]) {
  const all = await db.select({ id: eventTypes.id, settings: eventTypes.settings }).from(eventTypes)
    .where(and(eq(eventTypes.workspaceId, workspaceId), isNull(eventTypes.archivedAt))).orderBy(asc(eventTypes.position))
  const seats = hostIds.length === 0 ? [] : [
    ...await db.select({ eventTypeId: chairs.eventTypeId, hostId: chairHosts.hostId }).from(chairHosts)
      .innerJoin(chairs, and(eq(chairs.workspaceId, chairHosts.workspaceId), eq(chairs.id, chairHosts.chairId), eq(chairs.active, true)))
      .where(and(eq(chairHosts.workspaceId, workspaceId), inArray(chairHosts.hostId, hostIds))),
    ...await db.select({ eventTypeId: chairs.eventTypeId, hostId: groupHosts.hostId }).from(groupHosts)
      .innerJoin(chairGroups, and(eq(chairGroups.workspaceId, groupHosts.workspaceId), eq(chairGroups.groupId, groupHosts.groupId)))
      .innerJoin(chairs, and(eq(chairs.workspaceId, chairGroups.workspaceId), eq(chairs.id, chairGroups.chairId), eq(chairs.active, true)))
      .where(and(eq(groupHosts.workspaceId, workspaceId), inArray(groupHosts.hostId, hostIds))),
  ]
  return all.map(eventType => ({
    ...eventType,
    hostIds: new Set(seats.filter(seat => seat.eventTypeId === eventType.id).map(seat => seat.hostId)),
  }))
}

type Hours = Settings['hours']

/** Whether a host's plan is the one that applies to an event type. */
function applies(planId: string, { id, isDefault }: { id: string, isDefault: boolean }, hours: Hours): boolean {
  if (hours.mode === 'replace') return false
  const named = hours.hostPlans?.[id]
  return named === undefined ? isDefault : named === planId
}

/** Whether an event type names a shared plan as its own hours. */
function isOwnOf(planId: string, hours: Hours): boolean {
  return hours.mode !== 'hosts' && hours.shared === planId
}

export type HoursOutcome = { kind: 'saved', version: number } | { kind: 'changedMeanwhile' } | { kind: 'invalid', errors: InputFault[] }

/** Changes a plan over the version it was read in. */
export async function changeHours(
  { db, now }: Context, workspaceId: string, id: string, change: { basedOn: number, name: string, plan: StoredPlan },
): Promise<HoursOutcome> {
  const fault = planFault(change.plan, Math.floor(now() / DAY))
  if (fault) return { kind: 'invalid', errors: [{ ...fault, path: `plan.${fault.path}` }] }
  const [updated] = await db.update(hoursPlans).set({ name: change.name, plan: change.plan, version: change.basedOn + 1 })
    .where(and(isPlan({ workspaceId, id }), eq(hoursPlans.version, change.basedOn))).returning({ version: hoursPlans.version })
  return updated ? { kind: 'saved', version: updated.version } : { kind: 'changedMeanwhile' }
}

const MOST_PLANS = 20

export type CreateOutcome = { kind: 'notFound' } | { kind: 'created', id: string } | { kind: 'tooMany', most: number }

/** Creates a plan like another one: for its host, or for the whole workspace to share. */
export async function createHours(
  { db }: Context, workspaceId: string, { like, name, shared }: { like: string, name: string, shared: boolean },
): Promise<CreateOutcome> {
  return db.transaction(async (tx) => {
    const [source] = await tx.select().from(hoursPlans).where(isPlan({ workspaceId, id: like }))
    if (!source) return { kind: 'notFound' }
    const hostId = shared ? null : source.hostId
    // A plan of the workspace has no host whose another one could be.
    if (!shared && hostId === null) return { kind: 'notFound' }
    if (hostId) await lockHost(tx, workspaceId, hostId)
    const siblings = await tx.$count(hoursPlans, and(
      eq(hoursPlans.workspaceId, workspaceId), hostId === null ? isNull(hoursPlans.hostId) : eq(hoursPlans.hostId, hostId),
    ))
    if (siblings >= MOST_PLANS) return { kind: 'tooMany', most: MOST_PLANS }
    return { kind: 'created', id: await insertPlan(tx, { workspaceId, hostId, name, plan: source.plan }) }
  })
}

/** Saves a new plan, which its host has from then on. */
export async function insertPlan(
  tx: Database, values: { workspaceId: string, hostId: string | null, name: string, plan: StoredPlan }, isDefault = false,
): Promise<string> {
  const { workspaceId, hostId } = values
  const [created] = await tx.insert(hoursPlans).values(values).returning({ id: hoursPlans.id })
  if (!created) throw new Error('The hours were not saved')
  if (hostId) await tx.insert(hostPlans).values({ workspaceId, hostId, planId: created.id, isDefault })
  return created.id
}

/** Makes a host's own plan the one that applies to all event types that name no other of theirs. */
export async function makeDefault({ db }: Context, workspaceId: string, id: string): Promise<'isDefault' | 'notFound'> {
  const [plan] = await db.select({ hostId: hoursPlans.hostId }).from(hoursPlans).where(isPlan({ workspaceId, id }))
  if (!plan?.hostId) return 'notFound'
  return await chooseDefault({ db }, workspaceId, plan.hostId, id) ? 'isDefault' : 'notFound'
}

/** Has one of a host's plans, or one of the workspace's, apply by default. False where there is no such plan. */
export async function chooseDefault({ db }: Pick<Context, 'db'>, workspaceId: string, hostId: string, planId: string): Promise<boolean> {
  return db.transaction(async (tx) => {
    // The bookings under way are computed from the hours as they were.
    await lockHost(tx, workspaceId, hostId)
    const [plan] = await tx.select({ id: hoursPlans.id }).from(hoursPlans)
      .where(and(isPlan({ workspaceId, id: planId }), or(isNull(hoursPlans.hostId), eq(hoursPlans.hostId, hostId)))).for('share')
    if (!plan) return false
    await tx.update(hostPlans).set({ isDefault: false })
      .where(and(eq(hostPlans.workspaceId, workspaceId), eq(hostPlans.hostId, hostId), eq(hostPlans.isDefault, true)))
    await tx.insert(hostPlans).values({ workspaceId, hostId, planId, isDefault: true })
      .onConflictDoUpdate({ target: [hostPlans.workspaceId, hostPlans.hostId, hostPlans.planId], set: { isDefault: true } })
    return true
  })
}

export type SharingOutcome = 'saved' | 'notFound' | 'foreignHost' | 'isDefault'

/** Decides which hosts have a plan of the workspace. It stays with those whose default it is. */
export async function shareHours({ db }: Context, workspaceId: string, id: string, hostIds: readonly string[]): Promise<SharingOutcome> {
  return db.transaction(async (tx) => {
    const [plan] = await tx.select({ id: hoursPlans.id }).from(hoursPlans)
      .where(and(isPlan({ workspaceId, id }), isNull(hoursPlans.hostId))).for('update')
    if (!plan) return 'notFound'
    const known = hostIds.length === 0 ? 0 : await tx.$count(hosts, and(
      eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt), inArray(hosts.id, [...hostIds]),
    ))
    if (known !== hostIds.length) return 'foreignHost'
    const having = await tx.select().from(hostPlans).where(and(eq(hostPlans.workspaceId, workspaceId), eq(hostPlans.planId, id)))
    const leaving = having.filter(({ hostId }) => !hostIds.includes(hostId))
    if (leaving.some(({ isDefault }) => isDefault)) return 'isDefault'
    if (leaving.length > 0) {
      await tx.delete(hostPlans).where(and(
        eq(hostPlans.workspaceId, workspaceId), eq(hostPlans.planId, id), inArray(hostPlans.hostId, leaving.map(({ hostId }) => hostId)),
      ))
    }
    const joining = hostIds.filter(hostId => !having.some(row => row.hostId === hostId))
    if (joining.length > 0) await tx.insert(hostPlans).values(joining.map(hostId => ({ workspaceId, hostId, planId: id })))
    return 'saved'
  })
}

export type DeleteOutcome = 'deleted' | 'notFound' | 'isDefault' | 'inUse'

/** Deletes a plan that is nobody's default and that no event type names. */
export async function deleteHours({ db }: Context, workspaceId: string, id: string): Promise<DeleteOutcome> {
  return db.transaction(async (tx) => {
    const [plan] = await tx.select({ id: hoursPlans.id }).from(hoursPlans).where(isPlan({ workspaceId, id })).for('update')
    if (!plan) return 'notFound'
    const ofPlan = and(eq(hostPlans.workspaceId, workspaceId), eq(hostPlans.planId, id))
    if (await tx.$count(hostPlans, and(ofPlan, eq(hostPlans.isDefault, true))) > 0) return 'isDefault'
    const all = await tx.select({ settings: eventTypes.settings }).from(eventTypes).where(eq(eventTypes.workspaceId, workspaceId))
    const names = ({ hours }: Settings) =>
      isOwnOf(id, hours) || (hours.mode !== 'replace' && Object.values(hours.hostPlans ?? {}).includes(id))
    if (all.some(({ settings }) => names(settings))) return 'inUse'
    await tx.delete(hostPlans).where(ofPlan)
    await tx.delete(hoursPlans).where(isPlan({ workspaceId, id }))
    return 'deleted'
  })
}

function lockHost(tx: Database, workspaceId: string, id: string) {
  return tx.select({ id: hosts.id }).from(hosts).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, id))).for('no key update')
}

function isPlan({ workspaceId, id }: { workspaceId: string, id: string }) {
  return and(eq(hoursPlans.workspaceId, workspaceId), eq(hoursPlans.id, id))
}
