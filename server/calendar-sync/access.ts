import { and, eq } from 'drizzle-orm'
import { z } from 'zod'
import type { Context } from '../context'
import { calendarAccounts } from '../database/schema'
import { type CalendarAccess, CalendarFault } from '../ports/calendar'
import type { CalendarServer } from '../ports/calendar/servers'
import { seal, unseal } from '../secrets'

/** How accounts are reached, sealed where it is stored. */

export type AccountRow = typeof calendarAccounts.$inferSelect

const storedSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('feed'), address: z.string() }),
  z.strictObject({
    kind: z.literal('consent'), home: z.string(), origin: z.string(), server: z.string(), accessToken: z.string(),
    refreshToken: z.string().nullable(), expiresAt: z.number(),
  }),
  z.strictObject({ kind: z.literal('password'), home: z.string(), origin: z.string(), user: z.string(), password: z.string() }),
])
export type StoredAccess = z.infer<typeof storedSchema>

export function sealAccess({ settings }: Pick<Context, 'settings'>, access: StoredAccess): string {
  return seal(settings.secret, JSON.stringify(access))
}

export function basic(user: string, password: string): string {
  return `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`
}

export function bearer(token: string): string {
  return `Bearer ${token}`
}

/** Null for an uploaded file, which nobody has to be asked about. Throws CalendarFault. */
export function accessOf(context: Context, account: AccountRow): CalendarAccess | null {
  const { sealedAccess, label, addresses } = account
  if (sealedAccess === null) return null
  const stored = open(context, sealedAccess, label)
  if (stored.kind === 'feed') return context.calendars.feed(stored.address)
  const { home, origin } = stored
  return context.calendars.calDav({ home, origin }, { label, addresses }, stored.kind === 'password'
    ? () => Promise.resolve(basic(stored.user, stored.password))
    : async refused => bearer(await accessTokenOf(context, account, stored, refused?.replace(/^Bearer /, '') ?? null)))
}

/** Null for a file, and for what was sealed with another secret. */
export function unsealAccess(context: Context, { sealedAccess, label }: AccountRow): StoredAccess | null {
  try {
    return sealedAccess === null ? null : open(context, sealedAccess, label)
  } catch (error) {
    if (error instanceof CalendarFault) return null
    throw error
  }
}

/** What was sealed with another secret is lost for good. */
function open({ settings }: Context, sealed: string, label: string): StoredAccess {
  try {
    return storedSchema.parse(JSON.parse(unseal(settings.secret, sealed)))
  } catch {
    throw new CalendarFault('unreadableAccess', label)
  }
}

export function findCalendarServer({ settings }: Pick<Context, 'settings'>, key: string): CalendarServer | null {
  return settings.calendarServers.find(server => server.key === key) ?? null
}

type ConsentAccess = Extract<StoredAccess, { kind: 'consent' }>
const EARLY_SECONDS = 60

/**
 * The access token of an account, renewed under its row lock where it is about to expire or was refused: a server may let
 * each renewal be used only once. Throws CalendarFault.
 */
async function accessTokenOf(context: Context, account: AccountRow, stored: ConsentAccess, refused: string | null): Promise<string> {
  const isUsable = (access: ConsentAccess) => access.accessToken !== refused && access.expiresAt > context.now() + EARLY_SECONDS
  if (isUsable(stored)) return stored.accessToken
  const server = findCalendarServer(context, stored.server)
  if (!server) throw new CalendarFault('consentLost', account.label)
  return context.db.transaction(async (tx) => {
    const isAccount = and(eq(calendarAccounts.workspaceId, account.workspaceId), eq(calendarAccounts.id, account.id))
    const [row] = await tx.select().from(calendarAccounts).where(isAccount).for('update')
    const current = row ? unsealAccess(context, row) : null
    if (current?.kind !== 'consent' || current.refreshToken === null) throw new CalendarFault('consentLost', account.label)
    if (isUsable(current)) return current.accessToken
    const tokens = await context.calendars.renewTokens(server, current.refreshToken, context.now())
    await tx.update(calendarAccounts).set({ sealedAccess: sealAccess(context, { ...current, ...tokens }) }).where(isAccount)
    return tokens.accessToken
  })
}
