import { randomUUID } from 'node:crypto'
import { and, asc, desc, eq, isNull, max } from 'drizzle-orm'
import { definitionSchema, slugFrom } from '../../core/event-type/definition'
import { withCurrentGroups } from '../../core/event-type/groups'
import { type ChairPolicy, type Settings, settingsSchema } from '../../core/event-type/settings'
import { type Shape, shapeTable } from '../../core/event-type/shapes'
import { PRESET_TITLE } from '../../core/messages'
import type { SignedIn } from '../../core/views/desk'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { eventTypeAddresses, eventTypes, hosts, messageTexts, ownMessages } from '../database/schema'
import { definitionOf, loadEventTypes, loadGroups } from './load'
import { saveChairs, saveVersion } from './publish'

export interface NewEventType {
  slug: string
  state: 'draft' | 'open' | 'closed'
  listed: boolean
  settings: Settings
  chairs: {
    name: string
    policy: ChairPolicy
    hosts: { id: string, weight: number, group?: string | undefined }[]
    groups?: { id: string }[]
  }[]
}

/** Adds an event type at the end of the workspace's list. Run it in a transaction. */
export async function createEventType(db: Database, workspaceId: string, eventType: NewEventType, by: string, at: Date): Promise<string> {
  const known = await db.select({ id: hosts.id, name: hosts.name }).from(hosts).where(eq(hosts.workspaceId, workspaceId))
  const nameOf = (id: string) => known.find(host => host.id === id)?.name ?? ''
  const groups = await loadGroups(db, workspaceId)
  const definition = definitionSchema.parse({
    ...eventType,
    chairs: eventType.chairs.map(chair => withCurrentGroups({
      ...chair,
      id: randomUUID(),
      hosts: chair.hosts.map(host => ({ ...host, name: nameOf(host.id) })),
      groups: (chair.groups ?? []).map(({ id }) => ({ id, name: '' })),
    }, groups)),
  })
  const [last] = await db.select({ position: max(eventTypes.position) }).from(eventTypes).where(eq(eventTypes.workspaceId, workspaceId))
  const [made] = await db.insert(eventTypes).values({
    workspaceId,
    slug: definition.slug,
    state: definition.state,
    listed: definition.listed,
    settings: definition.settings,
    position: (last?.position ?? -1) + 1,
    updatedAt: at,
  }).returning({ id: eventTypes.id })
  if (!made) throw new Error('The event type was not saved')
  await saveChairs(db, workspaceId, made.id, definition.chairs)
  await saveVersion(db, workspaceId, made.id, 1, definition, by, at)
  return made.id
}

/** What an event type begins with. */
export function firstSettings(name: string, timeZone: string, shape: Shape = 'meeting'): Settings {
  return settingsSchema.parse({
    ...shapeTable[shape].settings,
    name,
    timeZone,
    summary: '',
    description: '',
    bufferBeforeMinutes: 0,
    horizon: { kind: 'rolling', days: 30 },
    dailyLimit: null,
    weeklyLimit: null,
    approval: false,
    hours: { mode: 'hosts' },
    places: [{ key: 'call', kind: 'phoneWeCall', label: '', detail: '' }],
    questions: [],
    calendarTitle: PRESET_TITLE,
  })
}

/**
 * A draft to begin from: the member hosts it, or where the member hosts nothing, the first host; others sit in beside them.
 * Null where nobody hosts.
 */
export async function newEventType({ db, now }: Context, member: SignedIn, name: string, shape: Shape): Promise<string | null> {
  const { workspaceId } = member
  const known = await db
    .select({ id: hosts.id, memberId: hosts.memberId })
    .from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt)))
    .orderBy(asc(hosts.name))
  const first = known.find(item => item.memberId === member.memberId) ?? known[0]
  if (!first) return null
  const seated = [first, ...known.filter(host => host !== first)].slice(0, shapeTable[shape].chairs)
  return db.transaction(async tx => createEventType(tx, workspaceId, {
    slug: await freeSlug(tx, workspaceId, name),
    state: 'draft',
    listed: true,
    settings: firstSettings(name, member.timeZone, shape),
    chairs: seated.map(({ id }, index) => ({ name: index === 0 ? 'Host' : 'Co-host', policy: 'fairShare', hosts: [{ id, weight: 1 }] })),
  }, member.name, dateOf(now())))
}

/** A draft like another event type, under an address of its own; null where there is none to copy. */
export async function duplicateEventType(context: Context, workspaceId: string, id: string, by: string): Promise<string | null> {
  const [original] = await loadEventTypes(context.db, workspaceId, { id })
  if (!original) return null
  const copy = definitionOf(original)
  const name = `${copy.settings.name.slice(0, 110)} (copy)`
  const at = dateOf(context.now())
  return context.db.transaction(async (tx) => {
    const created = await createEventType(tx, workspaceId, {
      ...copy, state: 'draft', slug: await freeSlug(tx, workspaceId, name), settings: { ...copy.settings, name },
    }, by, at)
    await copyMessageTexts(tx, workspaceId, { from: id, to: created }, by, at)
    return created
  })
}

/** The messages that an event type has added, and the words that it has given to these and to others, as they are now. */
async function copyMessageTexts(
  tx: Database, workspaceId: string, { from, to }: { from: string, to: string }, by: string, at: Date,
): Promise<void> {
  const added = await tx.select().from(ownMessages)
    .where(and(eq(ownMessages.workspaceId, workspaceId), eq(ownMessages.eventTypeId, from), isNull(ownMessages.removedAt)))
  const copies = added.map(({ id, definition }) => (
    { from: id, row: { workspaceId, id: randomUUID(), eventTypeId: to, definition, since: at } }
  ))
  if (copies.length > 0) await tx.insert(ownMessages).values(copies.map(({ row }) => row))
  const latest = await tx.selectDistinctOn([messageTexts.occasion, messageTexts.audience, messageTexts.ownId]).from(messageTexts)
    .where(and(eq(messageTexts.workspaceId, workspaceId), eq(messageTexts.eventTypeId, from)))
    .orderBy(messageTexts.occasion, messageTexts.audience, messageTexts.ownId, desc(messageTexts.version))
  const worded = latest.filter(({ wording }) => wording !== null)
  if (worded.length > 0) {
    await tx.insert(messageTexts).values(worded.map(({ occasion, audience, ownId, wording }) => ({
      workspaceId, eventTypeId: to, occasion, audience, wording, version: 1, at, memberName: by,
      ownId: copies.find(copy => copy.from === ownId)?.row.id ?? ownId,
    })))
  }
}

/** A short address that no event type of the workspace has or had. */
export async function freeSlug(db: Database, workspaceId: string, name: string): Promise<string> {
  const [now, before] = await Promise.all([
    db.select({ slug: eventTypes.slug }).from(eventTypes).where(eq(eventTypes.workspaceId, workspaceId)),
    db.select({ slug: eventTypeAddresses.slug }).from(eventTypeAddresses).where(eq(eventTypeAddresses.workspaceId, workspaceId)),
  ])
  return slugFrom(name, new Set([...now, ...before].map(item => item.slug)))
}
