import { and, eq, isNull, or, sql, type SQL } from 'drizzle-orm'
import type { AccountFault } from '../../core/views/calendar-account'
import type { NewAccount } from '../../core/views/calendars'
import { NotACalendar, readCalendar } from '../../core/calendar/taken'
import type { SignedIn } from '../../core/views/desk'
import { type Context, dateOf } from '../context'
import type { Database } from '../database/connection'
import { LockBusy, withLock } from '../database/lock'
import { calendarAccounts, calendars, hosts } from '../database/schema'
import { planJob } from '../jobs/queue'
import { CalendarFault, type FoundCalendar } from '../ports/calendar'
import type { CalendarServer } from '../ports/calendar/servers'
import { type AccountRow, basic, bearer, sealAccess, type StoredAccess, unsealAccess } from './access'
import { planHostEntries } from './entries'
import { loadCalendars, store } from './look'
import { lockOf, lookNow } from './schedule'
import { lockHost, raiseStamp, removeObjects, saveLook, spanAround } from './store'

/** Connecting, changing and disconnecting calendar accounts. */

const MOST_ACCOUNTS = 20
const MOST_CALENDARS = 60
/** How long somebody waits for the first look, which goes on without them. */
const FIRST_LOOK_SECONDS = 25

export type ConnectOutcome = { kind: 'connected', id: string } | { kind: 'refused', fault: AccountFault } | { kind: 'tooMany', most: number }

/** Connects an account, or the one that the host had connected before with new credentials, and looks through it once. */
export function connect(context: Context, workspaceId: string, request: NewAccount): Promise<ConnectOutcome> {
  return connectOpened(context, workspaceId, request.hostId, () =>
    (request.kind === 'caldav' ? openCalDav(context, request) : openFeed(context, request)))
}

/** Connects the account that a code of a calendar server stands for. */
export function connectByConsent(
  context: Context, workspaceId: string, hostId: string, server: CalendarServer,
  asked: { code: string, verifier: string, redirectUri: string },
): Promise<ConnectOutcome> {
  return connectOpened(context, workspaceId, hostId, async () => {
    const { calendars, now } = context
    const tokens = await calendars.exchangeCode(server, asked, now())
    const start = { url: server.address, host: new URL(server.address).host, origin: new URL(server.address).origin }
    const { place, ...details } = await calendars.openCalDav(start, null, () => Promise.resolve(bearer(tokens.accessToken)))
    return { kind: 'caldav', ...details, access: { kind: 'consent', ...place, server: server.key, ...tokens } }
  })
}

async function connectOpened(
  context: Context, workspaceId: string, hostId: string, open: () => Promise<OpenedAccount>,
): Promise<ConnectOutcome> {
  try {
    const found = await open()
    const saved = await saveAccount(context, workspaceId, hostId, found)
    if (saved === null) return { kind: 'tooMany', most: MOST_ACCOUNTS }
    const fault = await firstLook(context, { workspaceId, id: saved.id })
    if (!fault) return { kind: 'connected', id: saved.id }
    if (saved.isNew) await disconnect(context, workspaceId, saved.id)
    return { kind: 'refused', fault: fault.fault }
  } catch (error) {
    if (error instanceof CalendarFault) return { kind: 'refused', fault: error.fault }
    throw error
  }
}

interface OpenedAccount {
  kind: 'caldav' | 'feed'
  label: string
  addresses: string[]
  calendars: FoundCalendar[]
  access: StoredAccess
}

async function openCalDav({ calendars }: Context, request: Extract<NewAccount, { kind: 'caldav' }>): Promise<OpenedAccount> {
  const start = await calendars.discover(request.address)
  const { user, password } = request
  const { place, ...details } = await calendars.openCalDav(start, user, () => Promise.resolve(basic(user, password)))
  return { kind: 'caldav', ...details, access: { kind: 'password', ...place, user, password } }
}

async function openFeed({ calendars }: Context, { address }: Extract<NewAccount, { kind: 'feed' }>): Promise<OpenedAccount> {
  return { kind: 'feed', ...await calendars.feed(address).describe(), access: { kind: 'feed', address } }
}

/** Null where the host has as many accounts as one can have. */
async function saveAccount(
  context: Context, workspaceId: string, hostId: string, found: OpenedAccount,
): Promise<{ id: string, isNew: boolean } | null> {
  const { db, now } = context
  return db.transaction(async (tx) => {
    await lockHost(tx, workspaceId, hostId)
    const present = await tx.select().from(calendarAccounts)
      .where(and(eq(calendarAccounts.workspaceId, workspaceId), eq(calendarAccounts.hostId, hostId)))
    const { kind, label, addresses } = found
    const values = { label, addresses, sealedAccess: sealAccess(context, found.access), nextLookAt: dateOf(now()) }
    const same = present.find(account => account.kind === kind && isSame(context, account, found))
    if (same) {
      await tx.update(calendarAccounts).set(values).where(isAccount(workspaceId, same.id))
      return { id: same.id, isNew: false }
    }
    if (present.length >= MOST_ACCOUNTS) return null
    const [account] = await tx.insert(calendarAccounts).values({ workspaceId, hostId, kind, ...values })
      .returning({ id: calendarAccounts.id })
    if (!account) throw new Error('The account was not saved')
    await insertCalendars(tx, { workspaceId, hostId, accountId: account.id }, found.calendars)
    // Should this process end before the first look has, the job does it.
    await planJob(tx, 'lookAtCalendars', { workspaceId, id: account.id }, now() + 2 * FIRST_LOOK_SECONDS)
    await planHostEntries({ db: tx, now }, workspaceId, hostId)
    return { id: account.id, isNew: true }
  })
}

/** The same account of the same server, or the same feed. */
function isSame(context: Context, account: AccountRow, found: OpenedAccount): boolean {
  if (found.access.kind !== 'feed') return account.label === found.label
  const known = unsealAccess(context, account)
  return known?.kind === 'feed' && known.address === found.access.address
}

/** All of them block; the first that can be written to receives the host's sessions, unless another one does. */
async function insertCalendars(
  tx: Database, own: { workspaceId: string, hostId: string, accountId: string }, found: readonly FoundCalendar[],
): Promise<void> {
  const receiving = await tx.$count(calendars, and(
    eq(calendars.workspaceId, own.workspaceId), eq(calendars.hostId, own.hostId), eq(calendars.receives, true),
  ))
  const first = receiving > 0 ? undefined : found.find(({ writable }) => writable)
  await tx.insert(calendars).values(found.slice(0, MOST_CALENDARS).map(({ href, name, writable, timeZone }) =>
    ({ ...own, href, name, writable, ownTimeZone: timeZone, receives: href === first?.href })))
}

/** Waits for the first look as long as somebody can be asked to wait. */
async function firstLook(context: Context, subject: { workspaceId: string, id: string }): Promise<CalendarFault | null> {
  let timer: NodeJS.Timeout | undefined
  const patience = new Promise<null>((resolve) => {
    timer = setTimeout(() => resolve(null), FIRST_LOOK_SECONDS * 1000)
  })
  const looking = lookNow(context, subject)
  // Once nobody waits any more, the planned job finds what is left to do.
  looking.catch(() => {})
  return Promise.race([looking, patience]).finally(() => clearTimeout(timer))
}

export type LookOutcome = 'looked' | 'busy'

/** Looks at an account at once. What goes wrong stands in its state. */
export async function lookAgain(context: Context, subject: { workspaceId: string, id: string }): Promise<LookOutcome> {
  try {
    await firstLook(context, subject)
    return 'looked'
  } catch (error) {
    if (error instanceof LockBusy) return 'busy'
    throw error
  }
}

export type UploadOutcome = { kind: 'connected', id: string } | { kind: 'notACalendar' } | { kind: 'tooMany', most: number }

/** Stores an uploaded file in place of the one of the same name that the host had. */
export async function upload(
  context: Context, workspaceId: string, { hostId, name, text }: { hostId: string, name: string, text: string },
): Promise<UploadOutcome> {
  const { db, now } = context
  // Only whether it is one: reading all of it is for the thread.
  try {
    readCalendar(text.slice(0, 5000))
  } catch (error) {
    if (error instanceof NotACalendar) return { kind: 'notACalendar' }
    throw error
  }
  const account = await db.transaction(async (tx) => {
    await lockHost(tx, workspaceId, hostId)
    const ofHost = and(eq(calendarAccounts.workspaceId, workspaceId), eq(calendarAccounts.hostId, hostId))
    const [same] = await tx.select().from(calendarAccounts)
      .where(and(ofHost, eq(calendarAccounts.kind, 'file'), eq(calendarAccounts.label, name)))
    if (same) return same
    if (await tx.$count(calendarAccounts, ofHost) >= MOST_ACCOUNTS) return null
    const [added] = await tx.insert(calendarAccounts).values({ workspaceId, hostId, kind: 'file', label: name }).returning()
    if (!added) throw new Error('The account was not saved')
    await tx.insert(calendars).values({ workspaceId, hostId, accountId: added.id, href: '', name, writable: false })
    return added
  })
  if (!account) return { kind: 'tooMany', most: MOST_ACCOUNTS }
  await withLock(context.pool, lockOf(account.id), async () => {
    const [calendar] = await loadCalendars(context, account)
    if (!calendar) return
    await removeObjects(db, calendar, [''])
    await store(context, account, calendar, [{ href: '', etag: '', text }])
    await saveLook(context, calendar, { state: null, reachesTo: spanAround(now()).to })
  })
  await lookNow(context, { workspaceId, id: account.id })
  return { kind: 'connected', id: account.id }
}

/** Takes an account away with all that was read from it. What stands in its calendars stays there. */
export async function disconnect({ db, now }: Pick<Context, 'db' | 'now'>, workspaceId: string, id: string): Promise<void> {
  await db.transaction(async (tx) => {
    const [account] = await tx.delete(calendarAccounts).where(isAccount(workspaceId, id))
      .returning({ workspaceId: calendarAccounts.workspaceId, hostId: calendarAccounts.hostId })
    if (!account) return
    await raiseStamp(tx, account)
    // Another calendar of the host may receive what this one did.
    await planHostEntries({ db: tx, now }, workspaceId, account.hostId)
  })
}

/** All accounts of a host who leaves. */
export async function disconnectHost(tx: Database, workspaceId: string, hostId: string): Promise<void> {
  await tx.delete(calendarAccounts).where(and(eq(calendarAccounts.workspaceId, workspaceId), eq(calendarAccounts.hostId, hostId)))
}

/** The server that an address leads to, asked without credentials. */
export async function discoverServer(
  { calendars }: Context, address: string,
): Promise<{ host: string, url: string } | { fault: AccountFault }> {
  try {
    const { host, url } = await calendars.discover(address)
    return { host, url }
  } catch (error) {
    if (error instanceof CalendarFault) return { fault: error.fault }
    throw error
  }
}

/** Hosts who sign in connect their own calendars; for the others owners and coordinators do. */
export async function mayConnectCalendars(db: Database, member: SignedIn, hostId: string): Promise<boolean> {
  return isOwnOrUnsigned(db, member, sql`select ${hostId}::uuid`)
}

/** Whether an account, or the calendar of one, is one that the member may change, like `mayConnectCalendars`. */
export async function reachesCalendarAccount(db: Database, member: SignedIn, id: string): Promise<boolean> {
  return isOwnOrUnsigned(db, member, sql`select host_id from calendar_accounts where workspace_id = ${member.workspaceId} and id = ${id}`)
}

export async function reachesCalendar(db: Database, member: SignedIn, id: string): Promise<boolean> {
  return isOwnOrUnsigned(db, member, sql`select host_id from calendars where workspace_id = ${member.workspaceId} and id = ${id}`)
}

async function isOwnOrUnsigned(db: Database, { workspaceId, memberId, role }: SignedIn, hostQuery: SQL): Promise<boolean> {
  const found = await db.select({ id: hosts.id }).from(hosts).where(and(
    eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt), sql`${hosts.id} in (${hostQuery})`,
    or(eq(hosts.memberId, memberId), role === 'host' ? sql`false` : isNull(hosts.memberId)),
  ))
  return found.length > 0
}

function isAccount(workspaceId: string, id: string) {
  return and(eq(calendarAccounts.workspaceId, workspaceId), eq(calendarAccounts.id, id))
}
