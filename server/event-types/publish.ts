import { and, desc, eq, gt, inArray, isNull, notInArray, sql } from 'drizzle-orm'
import { chairSchema, type Definition, definitionSchema } from '../../core/event-type/definition'
import { MOST_HOSTS, ownHosts } from '../../core/event-type/groups'
import type { EventTypeState, Settings } from '../../core/event-type/settings'
import { planFault } from '../../core/hours/plan'
import { allQuestions } from '../../core/intake/question-sets'
import type { InputFault } from '../../core/validation'
import { DAY } from '../../core/time/civil'
import type { PublishedVersion } from '../../core/views/event-types'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import {
  chairGroups,
  chairHosts,
  chairs,
  eventTypeAddresses,
  eventTypeDrafts,
  eventTypes,
  eventTypeVersions,
  hosts,
  hostPlans,
  sessions,
} from '../database/schema'

import { listMembers } from './members'
import { definitionOf, type EventType, isEventType, loadEventTypes, loadShared, withCurrentShared } from './load'

/** Publishing: the one way in which an event type changes for clients. */

export type PublishOutcome =
  | { kind: 'published', version: number }
  | { kind: 'notFound' }
  | { kind: 'changedMeanwhile', theirs: PublishedVersion }
  | { kind: 'invalid', errors: InputFault[] }

/** The member who publishes. */
interface Publisher {
  memberId: string
  name: string
}

/** Publishes a definition over the version it was made from; a newer one is never overwritten silently. */
export async function publishDefinition(
  context: Context, workspaceId: string, id: string, by: Publisher, basedOn: number, requested: Definition,
): Promise<PublishOutcome> {
  return context.db.transaction(async (tx) => {
    const [current] = await tx.select({ version: eventTypes.version, slug: eventTypes.slug }).from(eventTypes)
      .where(isEventType(workspaceId, id)).for('update')
    if (!current) return { kind: 'notFound' }
    if (current.version !== basedOn) {
      const [theirs] = await listVersions(tx, workspaceId, id, 1)
      return theirs ? { kind: 'changedMeanwhile', theirs } : { kind: 'notFound' }
    }
    const { definition, errors } = await checkAgainstWorkspace(tx, workspaceId, id, requested, context.now())
    if (errors.length > 0) return { kind: 'invalid', errors }
    const at = dateOf(context.now())
    await moveAddress(tx, workspaceId, id, current.slug, definition.slug)
    await tx
      .update(eventTypes)
      .set({
        slug: definition.slug,
        listed: definition.listed,
        state: definition.state,
        settings: definition.settings,
        version: basedOn + 1,
        updatedAt: at,
      })
      .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id)))
    await saveChairs(tx, workspaceId, id, definition.chairs)
    await followSeats(tx, workspaceId, id, definition.settings.seats, at)
    await saveVersion(tx, workspaceId, id, basedOn + 1, definition, by.name, at)
    await dropDraft(tx, workspaceId, id, by.memberId)
    return { kind: 'published', version: basedOn + 1 }
  })
}

/** Opens an event type or closes it. Drafts stay, as changes of the version that this makes. */
export async function setEventTypeState(
  context: Context, workspaceId: string, id: string, by: string, state: 'open' | 'closed',
): Promise<boolean> {
  return context.db.transaction(async (tx) => {
    await tx.select({ id: eventTypes.id }).from(eventTypes).where(isEventType(workspaceId, id)).for('update')
    const [eventType] = await loadEventTypes(tx, workspaceId, { id })
    if (!eventType) return false
    if (eventType.state === state) return true
    await saveStateAsVersion(tx, eventType, state, by, dateOf(context.now()))
    return true
  })
}

/** Saves an event type as it stands, in a state, as its next version; drafts go on as changes of that one. */
export async function saveStateAsVersion(
  tx: Database, eventType: EventType, state: EventTypeState, by: string, at: Date,
): Promise<void> {
  const { workspaceId, id } = eventType
  const version = eventType.version + 1
  await tx.update(eventTypes).set({ state, version, updatedAt: at })
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.id, id)))
  await saveVersion(tx, workspaceId, id, version, { ...definitionOf(eventType), state }, by, at)
  await tx.update(eventTypeDrafts)
    .set({ basedOn: version, definition: sql`jsonb_set(${eventTypeDrafts.definition}, '{state}', ${JSON.stringify(state)}::jsonb)` })
    .where(and(
      eq(eventTypeDrafts.workspaceId, workspaceId),
      eq(eventTypeDrafts.eventTypeId, id),
      eq(eventTypeDrafts.basedOn, eventType.version),
    ))
}

/** What the schema cannot know: whose the hosts, the chairs and the address are. Hosts' names are those of today. */
async function checkAgainstWorkspace(
  db: Database,
  workspaceId: string,
  id: string,
  requested: Definition,
  now: number,
): Promise<{ definition: Definition, errors: InputFault[] }> {
  const errors: InputFault[] = []
  const known = new Map(
    (await db.select({ id: hosts.id, name: hosts.name }).from(hosts)
      .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt)))).map(host => [
      host.id,
      host.name,
    ]),
  )
  const taken = await db
    .select({ id: eventTypes.id, settings: eventTypes.settings })
    .from(eventTypes)
    .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.slug, requested.slug)))
  const before = await db
    .select({ id: eventTypeAddresses.eventTypeId, settings: eventTypes.settings })
    .from(eventTypeAddresses)
    .innerJoin(
      eventTypes,
      and(eq(eventTypes.workspaceId, eventTypeAddresses.workspaceId), eq(eventTypes.id, eventTypeAddresses.eventTypeId)),
    )
    .where(and(eq(eventTypeAddresses.workspaceId, workspaceId), eq(eventTypeAddresses.slug, requested.slug)))
  const own = requested.settings.hours.mode === 'hosts' ? null : planFault(requested.settings.hours.plan, Math.floor(now / DAY))
  if (own) errors.push({ ...own, path: `settings.hours.plan.${own.path}` })
  errors.push(...(await unknownPlans(db, workspaceId, requested)))
  const shared = await loadShared(db, workspaceId, 'share')
  const current = withCurrentShared(requested, shared)
  const { hours } = requested.settings
  if (hours.mode !== 'hosts' && hours.shared !== undefined && !shared.plans.has(hours.shared))
    errors.push({ path: 'settings.hours.shared', code: 'foreignHours', values: {} })
  errors.push(...questionSetFaults(requested.settings, current.settings), ...groupFaults(requested.chairs, current.chairs))
  const people = new Map((await listMembers(db, workspaceId)).map(member => [member.id, member.name]))
  errors.push(...requested.settings.observers.flatMap(({ id }, index): InputFault[] =>
    people.has(id) ? [] : [{ path: `settings.observers.${index}`, code: 'unknownObserver', values: {} }]))
  const holder = [...taken, ...before].find(row => row.id !== id)
  if (holder) errors.push({ path: 'slug', code: 'addressTaken', values: { name: holder.settings.name } })
  const foreign = await db
    .select({ id: chairs.id, eventTypeId: chairs.eventTypeId })
    .from(chairs)
    .where(
      and(
        eq(chairs.workspaceId, workspaceId),
        inArray(
          chairs.id,
          requested.chairs.map(chair => chair.id),
        ),
      ),
    )
  requested.chairs.forEach((chair, index) => {
    if (foreign.some(other => other.id === chair.id && other.eventTypeId !== id))
      errors.push({ path: `chairs.${index}.id`, code: 'foreignChair', values: {} })
    chair.hosts.forEach((host, place) => {
      if (!known.has(host.id)) errors.push({ path: `chairs.${index}.hosts.${place}`, code: 'unknownHost', values: { name: '' } })
    })
  })
  const definition = {
    ...current,
    settings: {
      ...current.settings,
      observers: current.settings.observers.map(({ id, name }) => ({ id, name: people.get(id) ?? name })),
    },
    chairs: current.chairs.map(chair => ({
      ...chair,
      hosts: chair.hosts.map(host => ({ ...host, name: known.get(host.id) ?? host.name })),
    })),
  }
  return { definition, errors }
}

/** Groups that no longer exist, and chairs that are left without a host or with more than one may have. */
function groupFaults(requested: Definition['chairs'], current: Definition['chairs']): InputFault[] {
  return requested.flatMap((chair, index): InputFault[] => {
    const now = current[index]
    const gone = chair.groups.findIndex(({ id }) => !now?.groups.some(group => group.id === id))
    if (gone >= 0) return [{ path: `chairs.${index}.groups.${gone}`, code: 'unknownGroup', values: {} }]
    return chairSchema.shape.hosts.safeParse(now?.hosts).success ? [] : [{ path: `chairs.${index}.hosts`, code: 'groupHosts', values: { most: MOST_HOSTS } }]
  })
}

/** Hours plans that the event type names although they are not, or no longer, that host's. */
async function unknownPlans(db: Database, workspaceId: string, { settings: { hours } }: Definition): Promise<InputFault[]> {
  const named = Object.entries(hours.mode === 'replace' ? {} : hours.hostPlans ?? {})
  if (named.length === 0) return []
  const plans = await db
    .select({ id: hostPlans.planId, hostId: hostPlans.hostId })
    .from(hostPlans)
    .where(eq(hostPlans.workspaceId, workspaceId))
  return named
    .filter(([hostId, planId]) => !plans.some(plan => plan.id === planId && plan.hostId === hostId))
    .map(([hostId]) => ({ path: `settings.hours.hostPlans.${hostId}`, code: 'foreignHours', values: {} }))
}

/** Shared questions that no longer exist, and keys that two questions have. */
function questionSetFaults(requested: Settings, current: Settings): InputFault[] {
  const gone = requested.questionSets.findIndex(({ id }) => !current.questionSets.some(set => set.id === id))
  if (gone >= 0) return [{ path: `settings.questionSets.${gone}`, code: 'unknownQuestionSet', values: {} }]
  const keys = allQuestions(current).map(question => question.key)
  return new Set(keys).size === keys.length ? [] : [{ path: 'settings.questionSets', code: 'keyTaken', values: {} }]
}

/** Sessions to come have as many seats as the event type, and never fewer than are taken. */
async function followSeats(db: Database, workspaceId: string, eventTypeId: string, seats: number, now: Date): Promise<void> {
  await db
    .update(sessions)
    .set({ seats: sql`greatest(${seats}::int, ${sessions.seatsTaken})` })
    .where(
      and(
        eq(sessions.workspaceId, workspaceId),
        eq(sessions.eventTypeId, eventTypeId),
        eq(sessions.cancelled, false),
        gt(sessions.startsAt, now),
      ),
    )
}

/** The old address goes on leading here; one that is taken back is no longer an old one. */
async function moveAddress(db: Database, workspaceId: string, eventTypeId: string, before: string, after: string): Promise<void> {
  if (before === after) return
  await db.delete(eventTypeAddresses).where(and(eq(eventTypeAddresses.workspaceId, workspaceId), eq(eventTypeAddresses.slug, after)))
  await db.insert(eventTypeAddresses).values({ workspaceId, slug: before, eventTypeId })
}

/** Chairs and their pools as requested; what rotation remembers of those who stay is kept. */
export async function saveChairs(db: Database, workspaceId: string, eventTypeId: string, requested: Definition['chairs']): Promise<void> {
  await db.update(chairs).set({ active: false }).where(and(eq(chairs.workspaceId, workspaceId), eq(chairs.eventTypeId, eventTypeId)))
  for (const [position, { id, name, policy, hosts: seated, groups }] of requested.entries()) {
    const pool = ownHosts({ hosts: seated })
    await db.insert(chairs).values({ workspaceId, id, eventTypeId, position, name, policy })
      .onConflictDoUpdate({ target: [chairs.workspaceId, chairs.id], set: { position, name, policy, active: true } })
    await db.delete(chairGroups).where(and(eq(chairGroups.workspaceId, workspaceId), eq(chairGroups.chairId, id)))
    if (groups.length > 0) {
      await db.insert(chairGroups)
        .values(groups.map((group, place) => ({ workspaceId, chairId: id, groupId: group.id, position: place })))
    }
    await db.delete(chairHosts).where(
      and(
        eq(chairHosts.workspaceId, workspaceId),
        eq(chairHosts.chairId, id),
        notInArray(
          chairHosts.hostId,
          pool.map(host => host.id),
        ),
      ),
    )
    if (pool.length === 0) continue
    await db
      .insert(chairHosts)
      .values(pool.map((host, place) => ({ workspaceId, chairId: id, hostId: host.id, position: place, weight: host.weight })))
      .onConflictDoUpdate({
        target: [chairHosts.workspaceId, chairHosts.chairId, chairHosts.hostId],
        set: { position: sql`excluded.position`, weight: sql`excluded.weight` },
      })
  }
}

export async function saveVersion(
  db: Database, workspaceId: string, eventTypeId: string, version: number, definition: Definition, publishedBy: string, publishedAt: Date,
): Promise<void> {
  await db.insert(eventTypeVersions).values({ workspaceId, eventTypeId, version, definition, publishedBy, publishedAt })
}

/** What was published, newest first. */
export async function listVersions(db: Database, workspaceId: string, eventTypeId: string, most = 50): Promise<PublishedVersion[]> {
  const found = await db.select().from(eventTypeVersions)
    .where(and(eq(eventTypeVersions.workspaceId, workspaceId), eq(eventTypeVersions.eventTypeId, eventTypeId)))
    .orderBy(desc(eventTypeVersions.version)).limit(most)
  return found.map(row => ({
    version: row.version,
    definition: definitionSchema.parse(row.definition),
    by: row.publishedBy,
    at: secondsOf(row.publishedAt),
  }))
}

/** Keeps what a member has changed and not published; false where there is no such event type. */
export async function saveDraft(
  context: Context,
  workspaceId: string,
  eventTypeId: string,
  memberId: string,
  basedOn: number,
  definition: Definition,
): Promise<boolean> {
  const [known] = await context.db
    .select({ id: eventTypes.id })
    .from(eventTypes)
    .where(isEventType(workspaceId, eventTypeId))
  if (!known) return false
  const draft = { basedOn, definition, updatedAt: dateOf(context.now()) }
  await context.db
    .insert(eventTypeDrafts)
    .values({ workspaceId, eventTypeId, memberId, ...draft })
    .onConflictDoUpdate({ target: [eventTypeDrafts.workspaceId, eventTypeDrafts.eventTypeId, eventTypeDrafts.memberId], set: draft })
  return true
}

export async function dropDraft(db: Database, workspaceId: string, eventTypeId: string, memberId: string): Promise<void> {
  await db
    .delete(eventTypeDrafts)
    .where(
      and(
        eq(eventTypeDrafts.workspaceId, workspaceId),
        eq(eventTypeDrafts.eventTypeId, eventTypeId),
        eq(eventTypeDrafts.memberId, memberId),
      ),
    )
}
