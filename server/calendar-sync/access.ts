import { z } from 'zod'
import type { Context } from '../context'
import type { calendarAccounts } from '../database/schema'
import { type CalendarAccess, CalendarFault } from '../ports/calendar'
import { seal, unseal } from '../secrets'

/** How accounts are reached, sealed where it is stored. */

export type AccountRow = typeof calendarAccounts.$inferSelect

const storedSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('feed'), address: z.string() }),
  z.strictObject({ kind: z.literal('password'), home: z.string(), origin: z.string(), user: z.string(), password: z.string() }),
])
export type StoredAccess = z.infer<typeof storedSchema>

export function sealAccess({ settings }: Pick<Context, 'settings'>, access: StoredAccess): string {
  return seal(settings.secret, JSON.stringify(access))
}

export function basic(user: string, password: string): string {
  return `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`
}

/** Null for an uploaded file, which nobody has to be asked about. Throws CalendarFault. */
export function accessOf(context: Context, { sealedAccess, label, addresses }: AccountRow): CalendarAccess | null {
  if (sealedAccess === null) return null
  const stored = open(context, sealedAccess, label)
  if (stored.kind === 'feed') return context.calendars.feed(stored.address)
  const { home, origin, user, password } = stored
  return context.calendars.calDav({ home, origin }, { label, addresses }, () => Promise.resolve(basic(user, password)))
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
