import { randomUUID } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { DAY, formatInstant, MINUTE } from '../core/time/civil'
import { bookingRequestSchema, bookOpening, changePeople, findBookingByToken, moveBooking } from '../server/booking'
import { changeBooking } from '../server/changes'
import type { Context } from '../server/context'
import { bookings, deliveries, trail } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { campaign } from './support/campaign'
import { checkLedger, overlapsOf } from './support/fairness'
import { call, request, startsOf } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/**
 * Bookings made and ended in any order, beside a model that knows only what may follow what. Whether a start can be
 * booked is asked of the page, as a client would.
 */

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
const [SEATS, MOST_PEOPLE] = [3, 2]
const talk = { slug: 'talk', settings: { places, startEveryMinutes: 10, dailyLimit: 3 } }
const asked = { slug: 'asked', settings: { places, startEveryMinutes: 15, approval: true, bufferBeforeMinutes: 5 } }
const clinic = { slug: 'clinic', settings: { places, startEveryMinutes: 30, seats: SEATS, mostPeople: MOST_PEOPLE } }
const eventTypes = [talk, asked, clinic]
const [OPENS, SLOTS] = [9 * 3600, 5]
const AFTER_DAYS = 3

type State = 'awaitingApproval' | 'confirmed' | 'declined' | 'cancelled'
interface Modelled {
  id: string
  slug: string
  token: string
  state: State
  start: number
  people: number
  sessionId: string
  /** What the client has been written to about. */
  told: string[]
  /** What the trail says of it. */
  trail: string[]
}

const step = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({ kind: fc.constant('book' as const), eventType: fc.constantFrom(...eventTypes, clinic), slot: fc.nat({ max: SLOTS }), people: fc.integer({ min: 1, max: MOST_PEOPLE }) }),
  },
  {
    weight: 5,
    arbitrary: fc.record({
      kind: fc.constantFrom('cancel' as const, 'cancelByToken' as const, 'decline' as const, 'approve' as const),
      which: fc.nat({ max: 30 }),
    }),
  },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('count' as const), which: fc.nat({ max: 30 }), people: fc.integer({ min: 1, max: SEATS + 1 }) }) },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('move' as const), which: fc.nat({ max: 30 }), slot: fc.nat({ max: SLOTS }) }) },
)

/** What chance may leave out: a request that is approved, moves of both kinds, and numbers to the last seat and back. */
const bookAt = (eventType: (typeof eventTypes)[number], slot: number) => ({ kind: 'book' as const, eventType, slot, people: 1 })
const everyKind = [
  bookAt(asked, 0), { kind: 'approve' as const, which: 0 }, { kind: 'move' as const, which: 0, slot: 1 },
  bookAt(clinic, 3), bookAt(clinic, 3), { kind: 'count' as const, which: 0, people: 2 }, { kind: 'count' as const, which: 0, people: 1 },
  { kind: 'move' as const, which: 1, slot: 5 }, bookAt(talk, 2),
]

const stepOf = (slug: string) => eventTypes.find(eventType => eventType.slug === slug)?.settings.startEveryMinutes ?? 0

async function book(workspace: TestWorkspace, slug: string, start: number, people: number): Promise<Modelled | null> {
  const path = `${workspace.slug}/${slug}`
  const offered = (await startsOf(app, path, AFTER_DAYS, 0, { people: String(people) })).includes(formatInstant(start))
  const wanted = bookingRequestSchema.parse(request(formatInstant(start), { people }))
  const outcome = await bookOpening(context, workspace.slug, slug, randomUUID(), wanted)
  expect(outcome, `${slug} for ${people} at ${formatInstant(start)}, ${offered ? 'on' : 'not on'} its page`).toMatchObject({
    kind: offered ? 'booked' : 'taken',
  })
  if (outcome.kind !== 'booked') return null
  const token = new URL(outcome.body.manage).pathname.split('/').at(-1) ?? ''
  const asks = slug === 'asked'
  const { id } = outcome.body.booking
  return {
    id,
    slug,
    token,
    state: asks ? 'awaitingApproval' : 'confirmed',
    start,
    people,
    sessionId: await sessionOf(id),
    told: [asks ? 'awaitingApproval' : 'booked'],
    trail: [asks ? 'requested' : 'booked'],
  }
}

async function sessionOf(bookingId: string): Promise<string> {
  return (await context.db.select({ id: bookings.sessionId }).from(bookings).where(eq(bookings.id, bookingId)))[0]?.id ?? ''
}

/** Whether it can be moved there is asked of its own page. */
async function move(workspace: TestWorkspace, modelled: Modelled, start: number): Promise<void> {
  const day = formatInstant(start).slice(0, 10)
  const { body } = await call(`${app}/api/public/bookings/${modelled.token}/openings?from=${day}&to=${day}&timeZone=UTC`)
  const offered = body.openings.some((opening: { start: string }) => opening.start === formatInstant(start))
  const stands = modelled.state === 'awaitingApproval' || modelled.state === 'confirmed'
  const outcome = await moveBooking(context, workspace.id, { bookingId: modelled.id, start, whole: false, despite: false },
    { by: { kind: 'client', name: 'Nandini Bhowmik' }, zone: 'UTC', locale: 'en-GB' })
  const expected = start === modelled.start ? 'moved' : !stands ? 'refused' : offered ? 'moved' : 'taken'
  expect(outcome.kind, `${modelled.slug}, ${modelled.state}, to ${formatInstant(start)}, ${offered ? 'on' : 'not on'} its page`).toBe(expected)
  if (expected !== 'moved' || start === modelled.start) return
  const sessionId = await sessionOf(modelled.id)
  // Alone it takes its session along, whose trail says so.
  const goes = sessionId !== modelled.sessionId
  Object.assign(modelled, {
    start, sessionId, told: [...modelled.told, 'moved'], ...(goes ? { trail: [...modelled.trail, 'moved'] } : {}),
  })
  moves[goes ? 'elsewhere' : 'along'] += 1
}
/** Each of them has a seat, or nothing changes. */
async function count(workspace: TestWorkspace, modelled: Modelled, people: number, model: readonly Modelled[]): Promise<void> {
  const outcome = await changePeople(context, workspace.id, modelled.id, people, { kind: 'member', name: 'Test Owner' })
  const stands = (booking: Modelled) => booking.state === 'awaitingApproval' || booking.state === 'confirmed'
  const others = model.filter(other => other !== modelled && stands(other) && other.sessionId === modelled.sessionId)
  const taken = others.reduce((sum, other) => sum + other.people, people)
  const isPossible = people === modelled.people || (modelled.slug === 'clinic' && people <= MOST_PEOPLE && taken <= SEATS)
  const expected = !stands(modelled) ? 'refused' : isPossible ? 'changed' : 'invalid'
  expect(outcome.kind, `${modelled.slug}, ${modelled.state}, from ${modelled.people} to ${people} of ${taken}`).toBe(expected)
  if (expected !== 'changed' || people === modelled.people) return
  Object.assign(modelled, { people, told: [...modelled.told, 'peopleChanged'], trail: [...modelled.trail, 'peopleChanged'] })
  counts[taken === SEATS ? 'toTheLast' : 'others'] += 1
}
const counts = { toTheLast: 0, others: 0 }

const moves = { along: 0, elsewhere: 0 }

async function cancelByToken(token: string): Promise<void> {
  const found = await findBookingByToken(context.db, token)
  if (found)
    await changeBooking(context, found.workspace.id, found.booking.id, 'cancelled', { kind: 'client', name: found.booking.clientName })
}

async function act(workspace: TestWorkspace, kind: 'cancel' | 'cancelByToken' | 'decline' | 'approve', modelled: Modelled): Promise<void> {
  const owner = { kind: 'member' as const, name: 'Test Owner' }
  const change = async (change: 'approved' | 'declined' | 'cancelled') =>
    (await changeBooking(context, workspace.id, modelled.id, change, owner)).kind === 'changed'
  const waits = modelled.state === 'awaitingApproval'
  const stands = waits || modelled.state === 'confirmed'
  const follow = (state: State, told: string, said: string) =>
    Object.assign(modelled, { state, told: [...modelled.told, told], trail: [...modelled.trail, said] })
  switch (kind) {
    case 'approve':
      expect(await change('approved'), `approve what is ${modelled.state}`).toBe(waits)
      if (waits) follow('confirmed', 'booked', 'approved')
      break
    case 'decline':
      expect(await change('declined'), `decline what is ${modelled.state}`).toBe(waits)
      if (waits) follow('declined', 'declined', 'declined')
      break
    case 'cancel':
      expect(await change('cancelled'), `cancel what is ${modelled.state}`).toBe(stands)
      if (stands) follow('cancelled', 'cancelled', 'cancelled')
      break
    case 'cancelByToken':
      await cancelByToken(modelled.token)
      expect((await findBookingByToken(context.db, modelled.token))?.booking.state, `cancel by its link what is ${modelled.state}`).toBe(
        stands ? 'cancelled' : modelled.state,
      )
      if (stands) follow('cancelled', 'cancelled', 'cancelled')
  }
}

/** What must be so whatever has happened. */
async function holds(workspace: TestWorkspace, model: readonly Modelled[]): Promise<void> {
  const kept = await context.db
    .select({ id: bookings.id, state: bookings.state })
    .from(bookings)
    .where(eq(bookings.workspaceId, workspace.id))
  expect(Object.fromEntries(kept.map(booking => [booking.id, booking.state]))).toEqual(
    Object.fromEntries(model.map(booking => [booking.id, booking.state])),
  )

  const told = await context.db.select({ id: deliveries.bookingId, occasion: deliveries.occasion }).from(deliveries)
    .where(and(eq(deliveries.workspaceId, workspace.id), eq(deliveries.audience, 'client')))
  const said = await context.db
    .select({ id: trail.bookingId, code: trail.code })
    .from(trail)
    .where(and(eq(trail.workspaceId, workspace.id), sql`${trail.code} not like 'message%'`))
    .orderBy(trail.id)
  for (const booking of model) {
    expect(
      told
        .filter(mail => mail.id === booking.id)
        .map(mail => mail.occasion)
        .sort(),
      'the client is told of each once',
    ).toEqual([...booking.told].sort())
    expect(
      said.filter(entry => entry.id === booking.id).map(entry => entry.code),
      'the trail says what happened, in its order',
    ).toEqual(booking.trail)
  }

  const { rows } = await context.db.execute<{ faults: number }>(sql`
    select count(*)::int as faults from (
      select s.id, s.seats, s.seats_taken, s.cancelled, bool_and(h.active) as active, bool_or(h.active) as any_active,
        (select coalesce(sum(b.people), 0) from bookings b where b.workspace_id = s.workspace_id and b.session_id = s.id and b.state in ('awaitingApproval', 'confirmed')) as taking
      from sessions s join session_hosts h on h.workspace_id = s.workspace_id and h.session_id = s.id
      where s.workspace_id = ${workspace.id} group by s.workspace_id, s.id
    ) one where seats_taken <> taking or seats_taken > seats or cancelled <> (taking = 0) or active <> (taking > 0) or any_active <> active`)
  expect(rows[0]?.faults, 'sessions whose seats or hosts do not follow their bookings').toBe(0)
}

it('keeps to what may follow what, tells of each change once, and gives all time back in the end', async () => {
  const workspace = await makeWorkspace(context, { hosts: 2, hours: 'Mo-Su 09:00-12:00', zone: 'UTC', eventTypes })
  const day = Math.floor(context.now() / DAY) + AFTER_DAYS
  const pages = () => Promise.all(eventTypes.map(({ slug }) => startsOf(app, `${workspace.slug}/${slug}`, AFTER_DAYS, 0)))
  const untouched = await pages()
  const all: Modelled[] = []
  let refused = 0
  await fc.assert(fc.asyncProperty(fc.array(step, { minLength: 15, maxLength: 55 }), async (steps) => {
    const model: Modelled[] = []
    for (const item of steps) {
      if (item.kind === 'book') {
        const made = await book(
          workspace,
          item.eventType.slug,
          day * DAY + OPENS + item.slot * item.eventType.settings.startEveryMinutes * MINUTE,
          item.eventType.slug === 'clinic' ? item.people : 1,
        )
        if (!made) refused++
        else for (const list of [model, all]) list.push(made)
      } else {
        // Where several may come is where their number changes.
        const among = item.kind === 'count' ? model.filter(({ slug }) => slug === 'clinic') : model
        const chosen = among[item.which % Math.max(1, among.length)]
        if (chosen && item.kind === 'move') await move(workspace, chosen, day * DAY + OPENS + item.slot * stepOf(chosen.slug) * MINUTE)
        else if (chosen && item.kind === 'count') await count(workspace, chosen, item.people, all)
        else if (chosen && item.kind !== 'move' && item.kind !== 'count') await act(workspace, item.kind, chosen)
      }
    }
    await holds(workspace, all)
    for (const booking of model) await act(workspace, 'cancel', booking)
    await holds(workspace, all)
    expect(await pages(), 'with everything cancelled the pages offer what they did at first').toEqual(untouched)
  }), { numRuns: campaign(10, 30), endOnFailure: true, examples: [[everyKind]] })
  expect(new Set(all.map(item => item.trail.join(' ')))).toContain('requested approved cancelled')
  expect(Math.min(moves.along, moves.elsewhere), 'moves of both kinds').toBeGreaterThan(0)
  expect(Math.min(counts.toTheLast, counts.others), 'numbers changed to the last seat and otherwise').toBeGreaterThan(0)
  await checkLedger(context, workspace.id)
  expect(await overlapsOf(context, workspace.id)).toBe(0)
  expect(refused, 'starts that could no longer be had').toBeGreaterThan(10)
})
