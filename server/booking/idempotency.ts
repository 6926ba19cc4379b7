import { createHash } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import type { InputFault } from '../../core/validation'
import type { BookingView, PublicOpening } from '../../core/views/client'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { idempotencyKeys } from '../database/schema'
import { bookingPage, loadBookingDetails } from '../details'
import { withPage } from './view'

/** What a booking is answered with, and what the same key was answered before. */

export type BookOutcome =
  | { kind: 'booked', body: { booking: BookingView, manage: string } }
  | { kind: 'taken', body: { nearest: PublicOpening[] } }
  | { kind: 'notFound' }
  | { kind: 'invalid', errors: InputFault[] }
  | { kind: 'keyReused' }

/** The answer that the same key was given before, or `keyReused` where it came with another body. */
export async function findAnswer(
  context: Context,
  db: Database,
  workspaceId: string,
  key: string,
  requestHash: string,
): Promise<BookOutcome | null> {
  const [row] = await db
    .select()
    .from(idempotencyKeys)
    .where(and(eq(idempotencyKeys.workspaceId, workspaceId), eq(idempotencyKeys.key, key)))
  if (!row) return null
  if (row.requestHash !== requestHash) return { kind: 'keyReused' }
  const details = row.bookingId ? await loadBookingDetails(db, workspaceId, row.bookingId) : null
  if (details && 'booking' in row.body)
    return { kind: 'booked', body: withPage(row.body.booking, bookingPage(context, details)) }
  return { kind: 'taken', body: { nearest: 'nearest' in row.body ? row.body.nearest : [] } }
}

/** The same for the same request, however its members are ordered. */
export function hashRequest(value: unknown): string {
  return createHash('sha256').update(JSON.stringify(sortKeys(value))).digest('hex')
}

function sortKeys(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sortKeys)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)).map(([key, inner]) => [key, sortKeys(inner)]))
}
