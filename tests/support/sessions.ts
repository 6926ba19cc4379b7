import { and, eq, isNull } from 'drizzle-orm'
import { expect, inject } from 'vitest'
import { formatTitleFault, formatTrailEntry } from '../../core/catalogue/trail'
import { describeFault, formatFault } from '../../core/catalogue/faults'
import type { TitleFault } from '../../core/booking/trail'
import type { Fault, FaultBy } from '../../core/faults'
import type { Context } from '../../server/context'
import { bookings, deliveries, rooms, sessions } from '../../server/database/schema'
import { readTrail } from '../../server/trail'
import { book, call, inbox, mailText, request, signIn, startsOf } from './http'
import type { TestWorkspace } from './workspace'

/** Sessions as a test makes them and looks at them. */

export interface Booked {
  bookingId: string
  sessionId: string
  email: string
  start: string
  /** The client's page as the interface gives it. */
  manage: string
}

/** Books the next opening of an event type. */
export async function bookNext(
  url: string,
  context: Context,
  workspace: TestWorkspace,
  slug = 'talk',
  change: Record<string, unknown> = {},
  afterDays = 2,
): Promise<Booked> {
  const path = `${workspace.slug}/${slug}`
  const [start = ''] = await startsOf(url, path, afterDays)
  const answer = await book(url, path, request(start, change))
  expect(answer.status, JSON.stringify(answer.body)).toBe(201)
  return bookedOf(context, answer.body)
}

export async function bookedOf(context: Context, body: { booking: { id: string, start: string }, manage: string }): Promise<Booked> {
  const [row] = await context.db.select().from(bookings).where(eq(bookings.id, body.booking.id))
  return {
    bookingId: body.booking.id,
    sessionId: row?.sessionId ?? '',
    email: row?.clientEmail ?? '',
    start: body.booking.start,
    manage: body.manage,
  }
}

export function tokenOf({ manage }: Pick<Booked, 'manage'>): string {
  return new URL(manage).pathname.split('/').at(-1) ?? ''
}

export async function trailOf(context: Context, workspace: TestWorkspace, sessionId: string): Promise<string[]> {
  return (await readTrail(context.db, workspace.id, sessionId)).map(entry => formatTrailEntry(entry.entry, 'UTC', 'en-GB')).reverse()
}

export async function roomOf(context: Context, sessionId: string) {
  return (await context.db.select().from(rooms).where(and(eq(rooms.sessionId, sessionId), isNull(rooms.replacedAt))))[0]
}

export async function deliveriesOf(context: Context, bookingId: string) {
  return context.db.select().from(deliveries).where(and(eq(deliveries.bookingId, bookingId)))
}

/** First words of the subjects an address got, oldest first. */
export async function subjects(address: string): Promise<(string | undefined)[]> {
  return (await inbox(address)).map(mail => mail.subject.split(':')[0]?.split(',')[0]).reverse()
}

export async function textsOf(address: string): Promise<string[]> {
  return Promise.all((await inbox(address)).reverse().map(mail => mailText(mail.id)))
}

/** What Today says waits for a person. */
export async function attentionOf(url: string, workspace: TestWorkspace) {
  const { body } = await call(`${url}/api/desk/today?timeZone=UTC`, { headers: await signIn(url, workspace.owner) })
  const entries = body.attention as {
    kind: string
    id: string
    sessionId: string
    fault: TitleFault | Fault | FaultBy | null
    unknown: boolean
  }[]
  return entries.map(entry => ({ ...entry, fault: describe(entry.fault ?? null) }))
}

function describe(fault: TitleFault | Fault | FaultBy | null): string | null {
  if (fault === null) return null
  if (typeof fault === 'string' || 'values' in fault) return formatTitleFault(fault)
  return 'by' in fault ? formatFault(fault) : describeFault(fault)
}

/** Rooms that a video service has and shows with a title, a host or an attendee. */
export async function roomsAtService(words: string, service: 'lantern' | 'quayside' = 'lantern'): Promise<number> {
  return (await rowsAtService(service)).filter(row => row.includes(words) && row.includes('as guest')).length
}

/** How many calls wait at a service until a fault is set again. */
export async function heldAtService(service: 'lantern' | 'quayside' | 'tollgate' = 'lantern'): Promise<number> {
  return (await (await fetch(`${inject(service)}/calls.json`)).json()).held
}

/** The rows of a video service's own page, as text. */
export async function rowsAtService(service: 'lantern' | 'quayside'): Promise<string[]> {
  const page = await (await fetch(inject(service))).text()
  return page.split('<tr>').slice(1).map(row => row.replace(/<[^>]*>/g, ' ').replaceAll('&#64;', '@').replace(/\s+/g, ' ').trim())
}

/** Moves a session, so that it is over or about to be. */
export async function shiftSession(context: Context, sessionId: string, start: Date, end: Date): Promise<void> {
  await context.db.update(sessions).set({ startsAt: start, endsAt: end }).where(eq(sessions.id, sessionId))
}
