import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { until } from '../scripts/run/processes'
import { expireRequests } from '../server/booking'
import type { Context } from '../server/context'
import { bookings, sessionHosts, sessions } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { checkLedger, overlapsOf } from './support/fairness'
import { book, call, post, request, signIn, startsOf } from './support/http'
import { type Booked, bookedOf, bookNext, deliveriesOf, roomOf, subjects, textsOf, tokenOf, trailOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
const hourly = { places, durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0 }
const later = (start: string, hours: number) => new Date(Date.parse(start) + hours * 3_600_000).toISOString().replace('.000', '')

const clientMoves = (booking: Booked, start: string) => post(`${app}/api/public/bookings/${tokenOf(booking)}/move`, { start })
const timesFor = async (booking: Booked, days = 6) => {
  const query = new URLSearchParams({ from: booking.start.slice(0, 10), to: later(booking.start, days * 24).slice(0, 10), timeZone: 'UTC' })
  const { body } = await call(`${app}/api/public/bookings/${tokenOf(booking)}/openings?${query}`)
  return body.openings as { start: string, seatsLeft: number, sameHosts: boolean }[]
}
const memberMoves = async (workspace: TestWorkspace, { bookingId }: Booked, body: object) =>
  post(`${app}/api/desk/bookings/${bookingId}/move`, body, await signIn(app, workspace.owner))
const allSent = (bookingId: string) => until(async () =>
  (await deliveriesOf(context, bookingId)).every(({ state }) => state === 'sent' || state === 'overtaken'), 30, 'Not everybody hears of it')
const sessionOf = async (id: string) => (await context.db.select().from(sessions).where(eq(sessions.id, id)))[0]
const bookingOf = async (id: string) => (await context.db.select().from(bookings).where(eq(bookings.id, id)))[0]
async function hostsOf(sessionId: string): Promise<string[]> {
  const seats = await context.db.select().from(sessionHosts)
    .where(and(eq(sessionHosts.sessionId, sessionId), eq(sessionHosts.active, true)))
  return seats.map(row => row.hostId)
}
/** Lines of a calendar entry as they were before they were folded. */
const unfolded = (text: string) => text.replace(/\r?\n /g, '')
const sequenceOf = (text: string) => Number(/SEQUENCE:(\d+)/.exec(text)?.[1] ?? -1)

describe('a client moves', () => {
  it('with the session, its room and its calendar entries; everybody hears of it once', async () => {
    const workspace = await makeWorkspace(context, { hosts: 1, zone: 'UTC', video: true, eventTypes: [{ slug: 'talk' }] })
    const booking = await bookNext(app, context, workspace)
    const host = workspace.hosts[0]?.email ?? ''
    await until(async () => (await roomOf(context, booking.sessionId))?.state === 'ready', 30, 'No room')
    await allSent(booking.bookingId)
    const room = await roomOf(context, booking.sessionId)
    const [first] = await textsOf(booking.email)

    // To a start that overlaps its own time.
    const other = (await timesFor(booking))[0]
    expect(Date.parse(other?.start ?? '') - Date.parse(booking.start)).toBeLessThan(3_600_000)
    const moved = await clientMoves(booking, other?.start ?? '')
    expect([moved.status, moved.body.booking?.start], JSON.stringify(moved.body)).toEqual([200, other?.start])
    await allSent(booking.bookingId)
    expect((await bookingOf(booking.bookingId))?.sessionId).toBe(booking.sessionId)
    expect(await roomOf(context, booking.sessionId)).toMatchObject({ id: room?.id, joinUrl: room?.joinUrl })
    expect(await subjects(booking.email)).toEqual(['Talk', 'New time'])
    expect(await subjects(host)).toEqual([expect.any(String), 'New time'])
    const readers = [
      [booking.email, first, booking.bookingId, room?.joinUrl], [host, (await textsOf(host))[0], booking.sessionId, room?.hostUrl],
    ] as const
    for (const [address, before, uid, link] of readers) {
      const text = (await textsOf(address)).at(-1) ?? ''
      expect(text).toContain('The time before was')
      expect(text).toContain(link)
      expect(text).toContain('METHOD:REQUEST')
      expect(text).toContain(`UID:${uid}`)
      expect(text).toContain(`DTSTART:${(other?.start ?? '').replace(/[-:]/g, '')}`)
      expect(sequenceOf(text)).toBeGreaterThan(sequenceOf(before ?? ''))
    }
    expect((await trailOf(context, workspace, booking.sessionId)).join('\n')).toMatch(/Nandini Bhowmik moved it from .* to /)
    // Again changes nothing, and what was left is free again.
    expect((await clientMoves(booking, other?.start ?? '')).status).toBe(200)
    const isInStep = async () =>
      (await trailOf(context, workspace, booking.sessionId)).some(line => line.includes('brought the room up to date'))
    await until(isInStep, 30, 'The room stays behind')
    expect(await subjects(booking.email)).toHaveLength(2)
    expect((await timesFor(booking)).some(({ start }) => start === booking.start)).toBe(true)
  })

  it('stays with its host where able, else goes to whoever is next, and the credits go with it', async () => {
    const workspace = await makeWorkspace(context, { hosts: 2, zone: 'UTC', hours: 'Mo-Su 08:00-18:00', eventTypes: [{ slug: 'talk', settings: hourly }] })
    const booking = await bookNext(app, context, workspace)
    const [before] = await hostsOf(booking.sessionId)
    expect((await clientMoves(booking, later(booking.start, 1))).status).toBe(200)
    expect(await hostsOf(booking.sessionId)).toEqual([before])
    await checkLedger(context, workspace.id)
    // Another session of the same host at the time after that: the other one takes over.
    const taken = later(booking.start, 2)
    for (const answer of [await book(app, `${workspace.slug}/talk`, request(taken)), await book(app, `${workspace.slug}/talk`, request(taken))]) {
      const second = await bookedOf(context, answer.body)
      if ((await hostsOf(second.sessionId))[0] !== before) await post(`${app}/api/public/bookings/${tokenOf(second)}/cancel`, {})
    }
    expect((await timesFor(booking)).find(({ start }) => start === taken)).toMatchObject({ sameHosts: false })
    expect((await clientMoves(booking, taken)).status).toBe(200)
    const [after] = await hostsOf(booking.sessionId)
    expect(after).not.toBe(before)
    await checkLedger(context, workspace.id)
    await allSent(booking.bookingId)
    const emailOf = (id: string | undefined) => workspace.hosts.find(host => host.id === id)?.email ?? ''
    const given = (await textsOf(emailOf(before))).findLast(text => text.includes(`UID:${booking.sessionId}`)) ?? ''
    expect(given).toContain('METHOD:CANCEL')
    expect(given).toContain('you no longer host it')
    expect((await textsOf(emailOf(after))).findLast(text => text.includes(`UID:${booking.sessionId}`))).toContain('Who hosts it now')
    expect((await textsOf(booking.email)).some(text => text.includes('You now meet'))).toBe(true)
    // With neither free nothing moves, and the nearest other times are given.
    const busy = later(booking.start, 3)
    await Promise.all([1, 2].map(() => book(app, `${workspace.slug}/talk`, request(busy))))
    const refused = await clientMoves(booking, busy)
    expect([refused.status, refused.body.reason, refused.body.nearest.length > 0]).toEqual([409, 'timeTaken', true])
    expect((await call(`${app}/api/public/bookings/${tokenOf(booking)}`)).body.booking.start).toBe(taken)
    expect(await overlapsOf(context, workspace.id)).toBe(0)
  })

  it('until the deadline of the event type, and a member after it', async () => {
    const clientTerms = { moveUntilMinutes: 7 * 1440, cancelUntilMinutes: null }
    const workspace = await makeWorkspace(context, { hosts: 1, zone: 'UTC', eventTypes: [{ slug: 'talk', settings: { ...hourly, clientTerms } }] })
    const booking = await bookNext(app, context, workspace)
    const page = (await call(`${app}/api/public/bookings/${tokenOf(booking)}/page`)).body
    expect([page.mayMove, page.mayCancel, page.moveUntil]).toEqual([false, false, later(booking.start, -7 * 24)])
    for (const answer of [await clientMoves(booking, later(booking.start, 1)), await post(`${app}/api/public/bookings/${tokenOf(booking)}/cancel`, {})])
      expect([answer.status, answer.body.reason]).toEqual([409, 'pastDeadline'])
    expect((await memberMoves(workspace, booking, { start: later(booking.start, 1) })).status).toBe(200)
  })
})

describe('in a session that several share', () => {
  const shared = { ...hourly, seats: 3 }
  async function three() {
    const workspace = await makeWorkspace(context, { hosts: 1, zone: 'UTC', hours: 'Mo-Su 08:00-18:00', eventTypes: [{ slug: 'talk', settings: shared }] })
    const one = await bookNext(app, context, workspace)
    const two = await bookedOf(context, (await book(app, `${workspace.slug}/talk`, request(one.start))).body)
    const third = await bookedOf(context, (await book(app, `${workspace.slug}/talk`, request(later(one.start, 1)))).body)
    for (const { bookingId } of [one, two, third]) await allSent(bookingId)
    return { workspace, one, two, third, host: workspace.hosts[0]?.email ?? '' }
  }

  it('one leaves for another, and nobody else is disturbed; the last one to leave ends it', async () => {
    const { workspace, one, two, third, host } = await three()
    expect(one.sessionId).toBe(two.sessionId)
    expect((await timesFor(two)).find(({ start }) => start === third.start)).toMatchObject({ seatsLeft: 2 })
    expect((await clientMoves(two, third.start)).status).toBe(200)
    await allSent(two.bookingId)
    expect(await bookingOf(two.bookingId)).toMatchObject({ sessionId: third.sessionId, state: 'confirmed' })
    expect([(await sessionOf(one.sessionId))?.seatsTaken, (await sessionOf(third.sessionId))?.seatsTaken]).toEqual([1, 2])
    expect([await subjects(one.email), await subjects(two.email), await subjects(third.email)]).toEqual([['Talk'], ['Talk', 'New time'], ['Talk']])
    const entryOf = async (id: string) => unfolded((await textsOf(host)).findLast(text => text.includes(`UID:${id}`)) ?? '')
    const [left, joined] = [await entryOf(one.sessionId), await entryOf(third.sessionId)]
    expect(left).toContain('no longer comes to this session')
    expect(left).toContain('METHOD:REQUEST')
    expect([left.includes(`mailto:${one.email}`), left.includes(`mailto:${two.email}`)]).toEqual([true, false])
    expect([joined.includes(`mailto:${two.email}`), joined.includes(`mailto:${third.email}`)]).toEqual([true, true])

    expect((await clientMoves(one, third.start)).status).toBe(200)
    await allSent(one.bookingId)
    expect(await sessionOf(one.sessionId)).toMatchObject({ cancelled: true, seatsTaken: 0 })
    expect(await entryOf(one.sessionId)).toContain('METHOD:CANCEL')
    await checkLedger(context, workspace.id)
    // The old address leads to where they are now.
    const headers = await signIn(app, workspace.owner)
    expect((await call(`${app}/api/desk/sessions/${one.sessionId}`, { headers })).body).toMatchObject({ id: third.sessionId, seats: 3 })
  })

  it('one leaves for a time of their own; or a member moves everybody', async () => {
    const { workspace, one, two, third } = await three()
    const free = later(one.start, 3)
    expect((await clientMoves(two, free)).status).toBe(200)
    const made = (await bookingOf(two.bookingId))?.sessionId ?? ''
    expect([made === one.sessionId, made === third.sessionId, await hostsOf(made)]).toEqual([false, false, [workspace.hosts[0]?.id]])
    expect((await clientMoves(two, one.start)).status).toBe(200)
    expect((await memberMoves(workspace, one, { start: third.start, whole: true })).body, 'two sessions do not become one').toMatchObject({ status: 409, reason: 'timeTaken' })
    expect((await memberMoves(workspace, one, { start: free, whole: true })).body).toEqual({ moved: true, sessionId: one.sessionId })
    for (const { bookingId } of [one, two]) await allSent(bookingId)
    expect((await sessionOf(one.sessionId))?.startsAt.toISOString().replace('.000', '')).toBe(free)
    expect([(await subjects(one.email)).at(-1), (await subjects(two.email)).at(-1)]).toEqual(['New time', 'New time'])
    expect(await subjects(third.email)).toEqual(['Talk'])
    expect(await overlapsOf(context, workspace.id)).toBe(0)
    await checkLedger(context, workspace.id)
  })
})

it('a member moves it outside of hours after a warning, but never over another session', async () => {
  const workspace = await makeWorkspace(context, { hosts: 1, zone: 'UTC', hours: 'Mo-Su 08:00-12:00', eventTypes: [{ slug: 'talk', settings: { ...hourly, bufferAfterMinutes: 30 } }] })
  const booking = await bookNext(app, context, workspace)
  const evening = `${booking.start.slice(0, 10)}T19:00:00Z`
  const warned = await memberMoves(workspace, booking, { start: evening })
  expect([warned.status, warned.body.reasons]).toEqual([409, expect.arrayContaining([expect.stringContaining('no open hours')])])
  const other = await bookedOf(context, (await book(app, `${workspace.slug}/talk`, request(later(booking.start, 2)))).body)
  const over = await memberMoves(workspace, other, { start: later(booking.start, 1), despite: true })
  expect([over.status, over.body.reason, over.body.reasons], 'the buffer is in the way').toEqual([409, 'timeTaken', undefined])
  expect((await memberMoves(workspace, booking, { start: evening, despite: true })).status).toBe(200)
  await allSent(booking.bookingId)
  expect((await textsOf(booking.email)).at(-1)).toContain('METHOD:REQUEST')
  expect(await overlapsOf(context, workspace.id)).toBe(0)
})

it('a request moves as it is, and expires when nobody answers it in time', async () => {
  const workspace = await makeWorkspace(context, { hosts: 1, zone: 'UTC', eventTypes: [{ slug: 'talk', settings: { ...hourly, approval: true, approvalHours: 12 } }] })
  const booking = await bookNext(app, context, workspace)
  const row = await bookingOf(booking.bookingId)
  expect((row?.expiresAt?.getTime() ?? 0) - (row?.createdAt.getTime() ?? 0)).toBe(12 * 3_600_000)
  const start = later(booking.start, 4)
  expect((await clientMoves(booking, start)).body.booking).toMatchObject({ state: 'awaitingApproval', start })
  await allSent(booking.bookingId)
  const text = (await textsOf(booking.email)).at(-1) ?? ''
  expect(text).toContain('Your request for Talk has moved')
  expect(text, 'nothing was in a calendar').not.toContain('METHOD:')
  await expireRequests(context)
  expect((await bookingOf(booking.bookingId))?.state).toBe('awaitingApproval')
  await context.db.update(bookings).set({ expiresAt: new Date(Date.now() - 60_000) }).where(eq(bookings.id, booking.bookingId))
  await expireRequests(context)
  expect((await bookingOf(booking.bookingId))?.state).toBe('expired')
  await allSent(booking.bookingId)
  expect((await subjects(booking.email)).at(-1)).toBe('No answer')
  expect((await subjects(workspace.hosts[0]?.email ?? '')).at(-1)).toBe('Expired')
  const starts = await startsOf(app, `${workspace.slug}/talk`)
  expect(starts).toContain(start)
})

it('two change one session at once: one wins, the other is told, and nothing overlaps', async () => {
  const workspace = await makeWorkspace(context, { hosts: 2, zone: 'UTC', hours: 'Mo-Su 08:00-18:00', eventTypes: [{ slug: 'talk', settings: hourly }] })
  const headers = await signIn(app, workspace.owner)
  const booked = await Promise.all((await startsOf(app, `${workspace.slug}/talk`, 2, 0)).slice(0, 6)
    .map(async start => bookedOf(context, (await book(app, `${workspace.slug}/talk`, request(start))).body)))
  const answers = await Promise.all(booked.flatMap((booking, index) => [
    clientMoves(booking, later(booking.start, 24)),
    clientMoves(booking, booked[(index + 1) % booked.length]?.start ?? ''),
    (async () => post(`${app}/api/desk/hosts/${(await hostsOf(booking.sessionId))[0] ?? ''}/hand-over`, { seats: [{ sessionId: booking.sessionId, to: null }] }, headers))(),
    post(`${app}/api/public/bookings/${tokenOf(booking)}/cancel`, {}),
  ]))
  expect([...new Set(answers.map(({ status }) => status))].sort().filter(status => status !== 200 && status !== 409)).toEqual([])
  for (const { bookingId } of booked) await allSent(bookingId)
  expect(await overlapsOf(context, workspace.id)).toBe(0)
  await checkLedger(context, workspace.id)
  for (const { bookingId, email } of booked) {
    const row = await bookingOf(bookingId)
    const session = await sessionOf(row?.sessionId ?? '')
    const sequences = (await textsOf(email)).map(sequenceOf).filter(sequence => sequence >= 0)
    expect(sequences).toEqual([...sequences].sort((a, b) => a - b))
    expect(session?.cancelled).toBe(row?.state === 'cancelled')
  }
})
