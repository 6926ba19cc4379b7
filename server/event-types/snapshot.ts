import { and, asc, eq, isNull, ne, sql } from 'drizzle-orm'
import { LRUCache } from 'lru-cache'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { calendarAccounts, eventTypeAddresses, eventTypeDrafts, hosts, ownMessages, paymentAccounts, workspaceAddresses, workspaces } from '../database/schema'
import { loadStated, type StatedTime } from '../hosts-time'
import { type EventType, isOpen, loadEventTypes, loadShared, readDraft, toPoolChair, type Workspace } from './load'

/**
 * What a workspace's pages and openings are made from, bookings aside: read once and remembered in this process for as
 * long as the workspace's stamp stays the same, which one short query tells. What rotation remembers (`pool`) is not part
 * of it: whoever assigns hosts reads it anew.
 */
export interface WorkspaceSnapshot {
  workspace: Workspace
  /** The sum of all hosts' stamps: as long as it stays, so does what is taken. */
  takenStamp: string
  eventTypes: readonly EventType[]
  hosts: readonly (typeof hosts.$inferSelect)[]
  stated: StatedTime
  /** Hosts with a calendar that can be looked at. */
  calendarHosts: ReadonlySet<string>
  /** The account that clients pay to. */
  paymentAccountId: string | null
  /** Event types whose clients are sent phone texts, by id; null stands for all. */
  textsClients: ReadonlySet<string | null>
  /** Ids of event types by an address that they had before. */
  earlierAddresses: ReadonlyMap<string, string>
}

const remembered = new LRUCache<string, WorkspaceSnapshot>({ max: 500 })

const takenStamp = sql<string>`(select coalesce(sum(others.taken_stamp), 0) from hosts as others where others.workspace_id = workspaces.id)`

/** Null where no workspace has this address. */
export async function loadSnapshot(db: Database, slug: string): Promise<WorkspaceSnapshot | null> {
  // The stamp is read before what it stands for, so that what was read later is at least as new.
  const [found] = await db.select({ row: workspaces, takenStamp }).from(workspaces).where(eq(workspaces.slug, slug))
  return found ? snapshotOf(db, found) : loadByEarlierAddress(db, slug)
}

/** The event types of a workspace as they were last read under its present stamp. Not for a transaction that changes them. */
export async function knownEventTypes({ db }: Pick<Context, 'db'>, workspaceId: string): Promise<readonly EventType[]> {
  const [found] = await db.select({ row: workspaces, takenStamp }).from(workspaces).where(eq(workspaces.id, workspaceId))
  return found ? (await snapshotOf(db, found)).eventTypes : []
}

async function snapshotOf(db: Database, found: { row: typeof workspaces.$inferSelect, takenStamp: string }): Promise<WorkspaceSnapshot> {
  const { row } = found
  const known = remembered.get(row.id)
  if (known?.workspace.stamp === row.stamp)
    return known.takenStamp === found.takenStamp ? known : { ...known, takenStamp: found.takenStamp }
  const { id } = row
  const snapshot: WorkspaceSnapshot = {
    takenStamp: found.takenStamp,
    workspace: { ...row, confirmed: row.confirmedAt !== null, isClosing: row.deletionAskedAt !== null },
    eventTypes: await loadEventTypes(db, id),
    hosts: await db.select().from(hosts).where(eq(hosts.workspaceId, id)).orderBy(asc(hosts.name)),
    stated: await loadStated(db, id),
    calendarHosts: new Set((await db.selectDistinct({ hostId: calendarAccounts.hostId }).from(calendarAccounts)
      .where(and(eq(calendarAccounts.workspaceId, id), ne(calendarAccounts.kind, 'file')))).map(({ hostId }) => hostId)),
    paymentAccountId: (await db.select({ id: paymentAccounts.id }).from(paymentAccounts)
      .where(and(eq(paymentAccounts.workspaceId, id), isNull(paymentAccounts.disconnectedAt))))[0]?.id ?? null,
    textsClients: await loadTextsClients(db, id),
    earlierAddresses: new Map((await db.select().from(eventTypeAddresses).where(eq(eventTypeAddresses.workspaceId, id)))
      .map(address => [address.slug, address.eventTypeId])),
  }
  remembered.set(id, snapshot)
  return snapshot
}

async function loadTextsClients(db: Database, workspaceId: string): Promise<Set<string | null>> {
  const rows = await db.selectDistinct({ id: ownMessages.eventTypeId }).from(ownMessages).where(and(
    eq(ownMessages.workspaceId, workspaceId), isNull(ownMessages.removedAt),
    sql`${ownMessages.definition} @> '{"by": "phone", "to": ["client"]}'`,
  ))
  return new Set(rows.map(row => row.id))
}

/** The workspace that had this address before. */
async function loadByEarlierAddress(db: Database, slug: string): Promise<WorkspaceSnapshot | null> {
  const [earlier] = await db.select({ slug: workspaces.slug }).from(workspaceAddresses)
    .innerJoin(workspaces, eq(workspaces.id, workspaceAddresses.workspaceId)).where(eq(workspaceAddresses.slug, slug))
  return earlier ? loadSnapshot(db, earlier.slug) : null
}

/** What clients can book and pay for; in a workspace that is going to be deleted nothing any more. */
export function openEventTypes(
  { workspace, eventTypes, paymentAccountId }: Pick<WorkspaceSnapshot, 'workspace' | 'eventTypes' | 'paymentAccountId'>,
): EventType[] {
  const canBePaid = ({ settings }: EventType) => settings.price?.when !== 'booking' || paymentAccountId !== null
  return workspace.isClosing ? [] : eventTypes.filter(eventType => isOpen(eventType) && canBePaid(eventType))
}

/** The event type that clients can reach under an address, be it an earlier one, or null. */
export function openEventType(snapshot: WorkspaceSnapshot, slug: string): EventType | null {
  const { eventTypes, earlierAddresses } = snapshot
  const found =
    eventTypes.find(candidate => candidate.slug === slug) ?? eventTypes.find(candidate => candidate.id === earlierAddresses.get(slug))
  return openEventTypes(snapshot).find(candidate => candidate === found) ?? null
}

/** The event type under an address as a member has drafted it, whatever its state: what clients would see. */
export async function draftedEventType(
  db: Database, { workspace, eventTypes }: WorkspaceSnapshot, slug: string, memberId: string,
): Promise<EventType | null> {
  const drafts = await db.select().from(eventTypeDrafts)
    .where(and(eq(eventTypeDrafts.workspaceId, workspace.id), eq(eventTypeDrafts.memberId, memberId)))
  const shared = await loadShared(db, workspace.id)
  const definitions = new Map(drafts.flatMap(({ eventTypeId, definition }) => {
    const draft = readDraft(definition, shared)
    return draft ? [[eventTypeId, draft] as const] : []
  }))
  const found = eventTypes.find(({ id }) => definitions.get(id)?.slug === slug) ?? eventTypes.find(candidate => candidate.slug === slug)
  if (!found) return null
  const draft = definitions.get(found.id)
  if (!draft) return found
  const { chairs, ...rest } = draft
  return {
    ...found,
    ...rest,
    chairs: chairs.map(toPoolChair),
  }
}

/**
 * What openings and pages stand for: they stay the same as long as this does. Starts are whole minutes, and so are lead
 * times; a minute's first instant belongs to neither the minute before nor the rest of its own.
 */
export function stampOf({ workspace, takenStamp }: WorkspaceSnapshot, now: number): string {
  return [workspace.id, workspace.stamp, takenStamp, Math.floor(now / 60), Math.ceil(now / 60)].join(' ')
}
