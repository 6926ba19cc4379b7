import { and, eq, gt, sql } from 'drizzle-orm'
import { loadReading } from '../hosts-time'
import { type Context, dateOf } from '../context'
import { calendarObjects, calendars, receivingCalendars } from '../database/schema'
import type { CalendarAccess, CalendarObject, FoundCalendar, Listing } from '../ports/calendar'
import { type AccountRow, accessOf } from './access'
import { noticeChanges } from './entries'
import { type CalendarRow, hrefsWithin, loadEtags, removeObjects, replaceTimes, saveLook, saveObjects, spanAround } from './store'

/** Looking at an account: what is new or gone in its calendars is stored, what has not changed is left alone. */

const DAY = 24 * 3600
/** Objects loaded, read and stored at once. */
const BATCH = 50
/** Taken time is worked out further once it reaches less far than this. */
const LEAST_AHEAD_SECONDS = 399 * DAY

/** A span that somebody waits for, who is told once all that takes it is stored. */
export interface Urgent {
  from: number
  to: number
  reached: () => void
}

/** Looks at all calendars of an account. Throws CalendarFault; what was stored before that holds. */
export async function lookAt(context: Context, account: AccountRow, urgent?: Urgent): Promise<void> {
  const since = context.now()
  const access = accessOf(context, account)
  const known = await loadCalendars(context, account)
  if (access) {
    const { calendars: found } = await access.describe()
    const byHref = new Map(known.map(calendar => [calendar.href, calendar]))
    if (urgent) {
      for (const description of found) {
        const calendar = byHref.get(description.href)
        if (calendar?.blocks) await lookWithin(context, { account, access, calendar, found: description }, urgent)
      }
      if (access.listWithin) urgent.reached()
    }
    for (const description of found) {
      const calendar = byHref.get(description.href) ?? await addCalendar(context, account, description)
      await lookAtCalendar(context, account, access, calendar, description)
    }
    const gone = known.filter(({ href }) => !found.some(description => description.href === href))
    for (const { workspaceId, id } of gone)
      await context.db.update(calendars).set({ isGone: true }).where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.id, id)))
  }
  for (const calendar of await loadCalendars(context, account)) await extend(context, account, calendar)
  if (access?.writing) await noticeChanges(context, account, since)
}

export function loadCalendars(
  { db }: Pick<Context, 'db'>, { workspaceId, id }: Pick<AccountRow, 'workspaceId' | 'id'>,
): Promise<CalendarRow[]> {
  return db.select().from(calendars).where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.accountId, id)))
    .orderBy(calendars.name, calendars.href)
}

/** One that has appeared since the account was connected blocks nothing until the host says so. */
async function addCalendar({ db }: Context, { workspaceId, id, hostId }: AccountRow, found: FoundCalendar): Promise<CalendarRow> {
  const { href, name, writable, timeZone } = found
  const [added] = await db.insert(calendars)
    .values({ workspaceId, accountId: id, hostId, href, name, writable, ownTimeZone: timeZone, blocks: false }).returning()
  if (!added) throw new Error('The calendar was not saved')
  return added
}

async function lookAtCalendar(
  context: Context, account: AccountRow, access: CalendarAccess, calendar: CalendarRow, found: FoundCalendar,
): Promise<void> {
  const { db, now } = context
  const isChanged = found.name !== calendar.name || found.writable !== calendar.writable || found.timeZone !== calendar.ownTimeZone
  // With another zone of its own everything in it is worked out anew.
  const isMoved = found.timeZone !== calendar.ownTimeZone
  if (isChanged || calendar.isGone) {
    await db.update(calendars).set({
      // The name of a feed or file may have been found in its text.
      name: found.href === '' ? calendar.name : found.name,
      writable: found.writable, ownTimeZone: found.timeZone, isGone: false,
      ...(found.writable ? {} : { receives: false }), ...(isMoved ? { reachesTo: null } : {}),
    }).where(and(eq(calendars.workspaceId, calendar.workspaceId), eq(calendars.id, calendar.id)))
    if (!found.writable) {
      await db.delete(receivingCalendars)
        .where(and(eq(receivingCalendars.workspaceId, calendar.workspaceId), eq(receivingCalendars.calendarId, calendar.id)))
    }
  }
  const current = { ...calendar, ownTimeZone: found.timeZone, reachesTo: isMoved ? null : calendar.reachesTo }
  const known = await loadEtags(db, current)
  const isFirst = current.syncState === null && known.size === 0
  let state = current.syncState
  /** All that there is, where the server lists it from the beginning. */
  let present: Set<string> | null = null
  for (let more = true; more;) {
    let listing = await access.changesSince(found, state)
    // A server that refuses the tokens which it gives would begin its list for ever.
    if (listing?.isWhole && present) listing = await access.changesSince(found, null, true)
    if (!listing) break
    if (listing.isWhole) present = new Set()
    for (const { href } of listing.objects) present?.add(href)
    await applyListing(context, { account, access, calendar: current, found, known }, listing)
    state = listing.state
    more = listing.hasMore
    // What was stored of a long list of changes need not be listed again after a kill.
    if (more && !present) await saveState(context, current, state)
  }
  if (present) await forget(context, current, known, [...known.keys()].filter(href => !present.has(href)))
  await saveLook(context, current, { state, reachesTo: isFirst ? spanAround(now()).to : null })
}

async function saveState({ db }: Context, { workspaceId, id }: CalendarRow, syncState: string): Promise<void> {
  await db.update(calendars).set({ syncState }).where(and(eq(calendars.workspaceId, workspaceId), eq(calendars.id, id)))
}

interface Looking {
  account: AccountRow
  access: CalendarAccess
  calendar: CalendarRow
  found: FoundCalendar
}

/** Brings one span up to date, whatever else has changed. Servers may take other times for a span: what they do not name is asked for. */
async function lookWithin(context: Context, { account, access, calendar, found }: Looking, { from, to }: Urgent): Promise<void> {
  if (!access.listWithin || access.isUnchanged(found, calendar.syncState)) return
  const listed = await access.listWithin(found, from - DAY, to + DAY)
  const known = await loadEtags(context.db, calendar)
  const names = new Set(listed.map(({ href }) => href))
  const doubted = (await hrefsWithin(context.db, calendar, from, to)).filter(href => !names.has(href))
  const wanted = [...listed.filter(({ href, etag }) => known.get(href) !== etag).map(({ href }) => href), ...doubted]
  if (wanted.length === 0) return
  const loaded = await access.load(found, wanted)
  await store(context, account, calendar, loaded)
  const present = new Set(loaded.map(({ href }) => href))
  await removeObjects(context.db, calendar, wanted.filter(href => !present.has(href) && known.has(href)))
}

/** `known`: what is stored, by href. */
async function applyListing(
  context: Context, { account, access, calendar, found, known }: Looking & { known: Map<string, string> }, listing: Listing,
): Promise<void> {
  await forget(context, calendar, known, listing.removed)
  const changed = listing.objects.filter(({ href, etag }) => known.get(href) !== etag)
  const save = async (objects: readonly CalendarObject[]) => {
    await store(context, account, calendar, objects)
    for (const { href, etag } of objects) known.set(href, etag)
  }
  await save(changed.flatMap(({ href, etag, text }) => (text === null ? [] : [{ href, etag, text }])))
  const wanted = changed.filter(({ text }) => text === null).map(({ href }) => href)
  // While one batch is stored, the next is on its way.
  let loading = access.load(found, wanted.slice(0, BATCH))
  for (let at = 0; at < wanted.length; at += BATCH) {
    const loaded = await loading
    const next = wanted.slice(at + BATCH, at + 2 * BATCH)
    loading = next.length > 0 ? access.load(found, next) : Promise.resolve([])
    // Whatever comes of it is waited for in the next turn.
    loading.catch(() => {})
    await save(loaded)
    // Gone between the listing and the loading.
    await forget(context, calendar, known, wanted.slice(at, at + BATCH).filter(href => !loaded.some(object => object.href === href)))
  }
}

async function forget({ db }: Context, calendar: CalendarRow, known: Map<string, string>, hrefs: readonly string[]): Promise<void> {
  await removeObjects(db, calendar, hrefs.filter(href => known.delete(href)))
}

/** Reads objects and stores them with their times. */
export async function store(
  context: Context, account: AccountRow, calendar: CalendarRow, objects: readonly CalendarObject[],
): Promise<void> {
  if (objects.length === 0) return
  const reading = { ...await loadReading(context.db, calendar.workspaceId, calendar.id), ...spanAround(context.now()) }
  const read = await context.calendarReader.read({ ...reading, objects: objects.map(({ href, text }) => ({ href, text })) })
  await saveObjects(context.db, calendar, objects, read)
}

const AT_ONCE = 200

/** Works out the times of later days, or all of them where the settings that they depend on have changed. */
export async function extend(context: Context, account: AccountRow, calendar: CalendarRow): Promise<void> {
  const { db, now } = context
  const reach = calendar.reachesTo === null ? null : calendar.reachesTo.getTime() / 1000
  if (reach !== null && reach >= now() + LEAST_AHEAD_SECONDS) return
  const reading = { ...await loadReading(db, calendar.workspaceId, calendar.id), ...spanAround(now()) }
  for (let last = '', first = true; ; first = false) {
    const rows = await db.select({ href: calendarObjects.href, text: calendarObjects.text }).from(calendarObjects).where(and(
      eq(calendarObjects.workspaceId, calendar.workspaceId), eq(calendarObjects.calendarId, calendar.id),
      first ? undefined : gt(calendarObjects.href, last), reach === null ? undefined : eq(calendarObjects.goesOn, true),
    )).orderBy(calendarObjects.href).limit(AT_ONCE)
    if (rows.length > 0) await replaceTimes(db, calendar, await context.calendarReader.read({ ...reading, objects: rows }))
    last = rows.at(-1)?.href ?? ''
    if (rows.length < AT_ONCE) break
  }
  await db.update(calendars).set({ reachesTo: dateOf(reading.to) }).where(and(
    eq(calendars.workspaceId, calendar.workspaceId), eq(calendars.id, calendar.id),
    // Changed meanwhile, it is worked out once more.
    calendar.reachesTo === null ? sql`${calendars.timeZone} is not distinct from ${calendar.timeZone}` : eq(calendars.reachesTo, calendar.reachesTo),
  ))
}
