import { createHash } from 'node:crypto'
import { and, asc, eq, gt, sql } from 'drizzle-orm'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { bookings, unopenedMails } from '../database/schema'
import { openedKey } from '../secrets'

/** An address that nobody has shown to be theirs gets a few mails an hour only, whoever causes them and wherever. */

const HOUR = 3600

function hashAddress(address: string): string {
  return createHash('sha256').update(address.trim().toLowerCase()).digest('base64url')
}

/**
 * Counts one mail to an address. Returns null where it may go out now, else the instant (seconds) to wait for. Run it in
 * the transaction that claims the mail.
 */
export async function countUnopened(db: Database, context: Context, address: string): Promise<number | null> {
  const addressHash = hashAddress(address)
  const now = context.now()
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`mails ${addressHash}`}, 0))`)
  const recent = await db.select({ at: unopenedMails.at }).from(unopenedMails)
    .where(and(eq(unopenedMails.addressHash, addressHash), gt(unopenedMails.at, dateOf(now - HOUR)))).orderBy(asc(unopenedMails.at))
  const blocking = recent[recent.length - context.settings.unopenedMailsPerHour]
  if (blocking) return secondsOf(blocking.at) + HOUR
  await db.insert(unopenedMails).values({ addressHash, at: dateOf(now) })
  return null
}

/** Remembers that the client followed the link in a mail; `key` stands in that link only. */
export async function markOpened(
  context: Context,
  booking: { workspaceId: string, id: string, clientEmail: string, openedAt: Date | null },
  key: string,
): Promise<void> {
  if (booking.openedAt || key !== openedKey(context.settings.secret, booking.workspaceId, booking.id)) return
  await context.db.transaction(async (tx) => {
    await tx
      .update(bookings)
      .set({ openedAt: dateOf(context.now()) })
      .where(and(eq(bookings.workspaceId, booking.workspaceId), eq(bookings.id, booking.id)))
    await forgetUnopened(tx, booking.clientEmail)
  })
}

/** The address has shown that it is somebody's who wants these mails. */
export async function forgetUnopened(db: Database, address: string): Promise<void> {
  await db.delete(unopenedMails).where(eq(unopenedMails.addressHash, hashAddress(address)))
}
