import { createHash } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import { type Context, dateOf } from '../context'
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
  // The last of the most that one hour may have: while it is within the hour, there is no room for another.
  const { rows: [blocking] } = await db.execute<{ at: number }>(sql`
    with blocking as (
      select at from ${unopenedMails} where address_hash = ${addressHash} and at > ${dateOf(now - HOUR).toISOString()}::timestamptz
      order by at desc offset ${context.settings.unopenedMailsPerHour - 1} limit 1
    ), counted as (
      insert into ${unopenedMails} (address_hash, at)
      select ${addressHash}, ${dateOf(now).toISOString()}::timestamptz where not exists (select from blocking)
    )
    select floor(extract(epoch from at))::int as at from blocking`)
  return blocking ? blocking.at + HOUR : null
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
