import { randomUUID } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import { bookings, changes, guests, sessionHosts } from '../../server/database/schema'
import { DAY, formatDate } from '../../core/time/civil'
import { type Arena, pause, type CampaignRecord } from './arena'
import type { Random } from './random'

/** Clients who book, move, invite and cancel, and members who approve, hand over and change links, all at the same time. */

interface Mine {
  bookingId: string
  token: string
  slug: string
}

export const slugs = ['talk', 'strict', 'group', 'asked', 'paid'] as const

/** One client: books and cancels until there are as many bookings as there should be. */
export async function client(arena: Arena, record: CampaignRecord, random: Random, most: number, name: string): Promise<void> {
  const mine: Mine[] = []
  while (record.booked < most) {
    const kind = mine.length > 0 ? random.next() : 1
    const last = kind < 0.2 ? mine.splice(random.below(mine.length), 1)[0] : undefined
    if (last) await cancel(arena, record, random, last)
    else if (kind < 0.4) await move(arena, record, random, random.pick(mine))
    else if (kind < 0.5) await invite(arena, record, random, random.pick(mine))
    else await book(arena, record, random, mine, name)
    await pause(random.below(400))
  }
}

/** A call that is made again, at the other process, where the one that was asked is gone. */
async function ask(arena: Arena, record: CampaignRecord, random: Random, path: string, options: RequestInit = {}): Promise<Response> {
  for (;;) {
    try {
      const response = await fetch(random.pick(arena.apps).url + path, { ...options, signal: AbortSignal.timeout(15_000) })
      if (response.status < 500) return response
    } catch {
      record.repeated += 1
    }
    await pause(150)
  }
}

async function book(arena: Arena, record: CampaignRecord, random: Random, mine: Mine[], name: string): Promise<void> {
  const slug = random.pick(slugs)
  const path = `/api/public/${arena.workspace.slug}/${slug}`
  const from = Math.floor(Date.now() / 1000 / DAY) + 1 + random.below(30)
  const query = new URLSearchParams({ from: formatDate(from), to: formatDate(from + 5), timeZone: 'UTC' })
  const { openings = [] } = await (await ask(arena, record, random, `${path}/openings?${query}`)).json() as { openings?: { start: string }[] }
  if (openings.length === 0) return
  const body = {
    start: random.pick(openings).start, timeZone: 'UTC', answers: {},
    client: { name: `${name} ${randomUUID().slice(0, 6)}`, email: `${randomUUID().slice(0, 12)}@client.example`, phone: `+35191${1_000_000 + random.below(8_999_999)}` },
  }
  const response = await ask(arena, record, random, `${path}/bookings`, {
    method: 'POST', headers: { 'content-type': 'application/json', 'idempotency-key': randomUUID() }, body: JSON.stringify(body),
  })
  const text = await response.text()
  if (response.status !== 201) {
    record.refused += 1
    return
  }
  record.booked += 1
  const { booking, manage } = JSON.parse(text) as { booking: { id: string, payment?: { payUrl?: string } }, manage: string }
  const token = new URL(manage).pathname.split('/').at(-1) ?? ''
  mine.push({ bookingId: booking.id, token, slug })
  // Not everybody pays, and some press twice.
  if (booking.payment?.payUrl) for (let times = random.below(4); times > 0; times--) await pay(arena, record, random, token)
  if (slug === 'asked') await readUnconfirmed(arena, record, random, booking.id, token, text)
}

async function pay(arena: Arena, record: CampaignRecord, random: Random, token: string): Promise<void> {
  const sent = await ask(arena, record, random, `/bookings/${token}/pay`, { redirect: 'manual' })
  const page = sent.headers.get('location') ?? ''
  if (!page.startsWith(arena.standIns.tollgate)) return
  // Who pays at the service is sent back, whatever becomes of the notification.
  const back = await fetch(page, { method: 'POST', redirect: 'manual', body: new URLSearchParams({ do: 'pay' }) })
  if (back.status !== 303) return
  record.paid += 1
  if (random.next() < 0.5) await ask(arena, record, random, `/api/public/bookings/${token}/payment`, { method: 'POST' })
}

/** What the public side shows of a request that nobody has approved. */
async function readUnconfirmed(
  arena: Arena, record: CampaignRecord, random: Random, bookingId: string, token: string, first: string,
): Promise<void> {
  const paths = [`/bookings/${token}`, `/api/public/bookings/${token}`, `/api/public/bookings/${token}/page`]
  const texts = [first]
  for (const path of paths) texts.push(await (await ask(arena, record, random, path)).text())
  const [row] = await arena.context.db.select({ state: bookings.state }).from(bookings).where(eq(bookings.id, bookingId))
  if (row?.state === 'awaitingApproval') record.unconfirmed.push({ bookingId, texts })
}

async function move(arena: Arena, record: CampaignRecord, random: Random, { token }: Mine): Promise<void> {
  const path = `/api/public/bookings/${token}`
  const from = Math.floor(Date.now() / 1000 / DAY) + 1 + random.below(30)
  const query = new URLSearchParams({ from: formatDate(from), to: formatDate(from + 5), timeZone: 'UTC' })
  const { openings = [] } = await (await ask(arena, record, random, `${path}/openings?${query}`)).json() as { openings?: { start: string }[] }
  if (openings.length === 0) return
  const response = await ask(arena, record, random, `${path}/move`, {
    method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ start: random.pick(openings).start }),
  })
  if (response.ok) record.moved += 1
}

async function invite(arena: Arena, record: CampaignRecord, random: Random, { token, bookingId }: Mine): Promise<void> {
  const brought = await arena.context.db.select({ email: guests.email }).from(guests).where(eq(guests.bookingId, bookingId))
  const isLeaving = brought.length > 0 && random.next() < 0.6
  const body = isLeaving ? { remove: [random.pick(brought).email] } : { add: [{ email: `${randomUUID().slice(0, 12)}@guest.example` }] }
  const response = await ask(arena, record, random, `/api/public/bookings/${token}/guests`, {
    method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body),
  })
  if (response.ok) record.invited += 1
}

/** Makes some bookings older, now and then, so that reminders of them become due. */
export async function passTime({ context: { db }, workspace }: Arena, random: Random, isOver: () => boolean): Promise<void> {
  while (!isOver()) {
    const confirmed = await db.select({ sessionId: bookings.sessionId }).from(bookings)
      .where(and(eq(bookings.workspaceId, workspace.id), eq(bookings.state, 'confirmed'))).limit(200)
    if (confirmed.length > 0) {
      const older = and(eq(changes.workspaceId, workspace.id), eq(changes.sessionId, random.pick(confirmed).sessionId))
      await db.update(changes).set({ at: sql`${changes.at} - interval '40 days'` }).where(older)
    }
    // The holds of some who do not pay end early.
    if (random.next() < 0.3) {
      await db.update(bookings).set({ expiresAt: sql`now()` }).where(and(
        eq(bookings.workspaceId, workspace.id), eq(bookings.state, 'held'), sql`${bookings.createdAt} < now() - interval '5 seconds'`,
      ))
    }
    await pause(500 + random.below(1000))
  }
}

async function cancel(arena: Arena, record: CampaignRecord, random: Random, { token }: Mine): Promise<void> {
  const response = await ask(arena, record, random, `/api/public/bookings/${token}/cancel`, {
    method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}',
  })
  if (response.ok) record.cancelled += 1
}

/** The owner: approves and declines what waits, and makes and removes links by hand. */
export async function owner(arena: Arena, record: CampaignRecord, random: Random, isOver: () => boolean): Promise<void> {
  const signedIn = await ask(arena, record, random, '/api/desk/sign-in', {
    method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(arena.workspace.owner),
  })
  const cookie = signedIn.headers.getSetCookie().find(text => /^temporia=[^;]/.test(text))?.split(';')[0] ?? ''
  const desk = (method: string, path: string, body: object = {}) => ask(arena, record, random, `/api/desk/${path}`, {
    method, headers: { 'content-type': 'application/json', cookie }, ...(method === 'GET' ? {} : { body: JSON.stringify(body) }),
  })
  const isOurs = (state: 'awaitingApproval' | 'confirmed') => and(eq(bookings.workspaceId, arena.workspace.id), eq(bookings.state, state))
  while (!isOver()) {
    const waiting = await arena.context.db.select({ id: bookings.id }).from(bookings).where(isOurs('awaitingApproval')).limit(20)
    if (waiting.length > 0 && random.next() < 0.7) {
      const { id } = random.pick(waiting)
      const approves = random.next() < 0.8
      const answer = approves ? await desk('POST', `bookings/${id}/approve`) : await desk('POST', `bookings/${id}/close`, { state: 'declined' })
      if (answer.ok) record[approves ? 'approved' : 'declined'] += 1
    } else {
      const confirmed = await arena.context.db.select({ sessionId: bookings.sessionId }).from(bookings).where(isOurs('confirmed')).limit(200)
      if (confirmed.length > 0) {
        const { sessionId } = random.pick(confirmed)
        await (random.next() < 0.4 ? handOver(arena, record, desk, sessionId) : changeLink(arena, record, random, desk, sessionId))
      }
    }
    await pause(200 + random.below(600))
  }
}

type Desk = (method: string, path: string, body?: object) => Promise<Response>

async function handOver({ context }: Arena, record: CampaignRecord, desk: Desk, sessionId: string): Promise<void> {
  const [seat] = await context.db.select({ hostId: sessionHosts.hostId }).from(sessionHosts).where(eq(sessionHosts.sessionId, sessionId))
  const answer = await desk('POST', `hosts/${seat?.hostId}/hand-over`, { seats: [{ sessionId, to: null }] })
  if (answer.ok) record.handedOver += 1
}

async function changeLink(
  { standIns }: Arena, record: CampaignRecord, random: Random, desk: Desk, sessionId: string,
): Promise<void> {
  const room = `sessions/${sessionId}/room`
  const [method, path, body]: [string, string, object?] = random.pick([
    ['POST', `${room}/renew`, { way: null }], ['POST', `${room}/renew`, { way: null }],
    ['POST', `${room}/link`, { link: `${standIns.lantern}/given-${randomUUID()}` }], ['DELETE', room],
  ] satisfies [string, string, object?][])
  if ((await desk(method, path, body)).ok) record.byHand += 1
}
