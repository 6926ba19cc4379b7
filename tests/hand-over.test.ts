import { and, asc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { until } from '../scripts/run/processes'
import type { HandOverResult, HandOverView } from '../core/views/rotation'
import type { Context } from '../server/context'
import { rooms, sessionHosts } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { checkLedger, overlapsOf } from './support/fairness'
import { book, call, mailText, post, request, signIn, startsOf, inbox } from './support/http'
import { bookedOf, bookNext, deliveriesOf, textsOf, trailOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]

async function hostOf(sessionId: string): Promise<string> {
  return (await context.db.select().from(sessionHosts).where(eq(sessionHosts.sessionId, sessionId)))[0]?.hostId ?? ''
}

async function view(workspace: TestWorkspace, hostId: string): Promise<HandOverView> {
  return (await call(`${app}/api/desk/hosts/${hostId}/hand-over`, { headers: await signIn(app, workspace.owner) })).body
}

async function handOver(
  workspace: TestWorkspace, hostId: string, seats: { sessionId: string, to: string | null }[],
): Promise<HandOverResult[]> {
  const { status, body } = await post(`${app}/api/desk/hosts/${hostId}/hand-over`, { seats }, await signIn(app, workspace.owner))
  expect(status, JSON.stringify(body)).toBe(200)
  return body.results
}

it('gives a session to who is next, with a room of theirs, and everybody hears of it', async () => {
  const workspace = await makeWorkspace(context, { hosts: 2, video: true, eventTypes: [{ slug: 'talk' }] })
  const { bookingId, sessionId, email } = await bookNext(app, context, workspace)
  const before = await hostOf(sessionId)
  const [old, next] = workspace.hosts[0]?.id === before ? workspace.hosts : [...workspace.hosts].reverse()
  await until(async () => (await deliveriesOf(context, bookingId)).every(item => item.state === 'sent'), 30, 'No confirmation')
  const { seats: [seat] } = await view(workspace, before)
  expect(seat).toMatchObject({ sessionId, proposal: next?.id, free: [next?.id], clients: ['Nandini Bhowmik'] })

  expect(await handOver(workspace, before, [{ sessionId, to: null }])).toMatchObject([{ outcome: 'handedOver', to: expect.stringMatching(/^Host/) }])
  expect(await hostOf(sessionId)).toBe(next?.id)
  await until(async () => (await deliveriesOf(context, bookingId)).every(item => item.state === 'sent'), 30, 'Not everybody hears of it')

  const made = await context.db.select().from(rooms).where(eq(rooms.sessionId, sessionId)).orderBy(asc(rooms.replacedAt))
  expect(made.map(room => [room.state, room.replacedAt !== null])).toEqual([['withdrawn', true], ['ready', false]])
  expect(made[0]?.accountId).not.toBe(made[1]?.accountId)
  const client = (await textsOf(email)).at(-1) ?? ''
  expect(client).toContain('Your host for')
  expect(client).toContain(made[1]?.joinUrl)
  expect(client).toContain('METHOD:REQUEST')
  const given = (await textsOf(old?.email ?? '')).at(-1) ?? ''
  expect(given).toContain('you no longer host it')
  expect(given).toContain('METHOD:CANCEL')
  expect(given).toContain(`UID:${sessionId}`)
  const taken = (await textsOf(next?.email ?? '')).at(-1) ?? ''
  expect(taken).toContain('METHOD:REQUEST')
  expect(taken).toContain(`UID:${sessionId}`)
  expect((await trailOf(context, workspace, sessionId)).join('\n')).toMatch(/Test Owner handed it over from Host \d to Host \d: nobody else was free\./)
  await checkLedger(context, workspace.id)
})

it('leaves what nobody can take, lets it be picked by hand, and says where who was picked is taken', async () => {
  const workspace = await makeWorkspace(context, {
    hosts: 3, eventTypes: [{ slug: 'talk', settings: { places }, hosts: [0] }, { slug: 'other', settings: { places }, hosts: [1] }],
  })
  const [first, second, third] = workspace.hosts.map(host => host.id)
  const { sessionId, start } = await bookNext(app, context, workspace)
  const other = await book(app, `${workspace.slug}/other`, request(start))
  expect(other.status).toBe(201)
  const { seats: [seat] } = await view(workspace, first ?? '')
  expect(seat).toMatchObject({ proposal: null, free: [], others: [third] })
  expect(await handOver(workspace, first ?? '', [{ sessionId, to: null }])).toMatchObject([{ outcome: 'nobodyFree' }])
  expect(await handOver(workspace, first ?? '', [{ sessionId, to: second ?? '' }])).toMatchObject([{ outcome: 'taken' }])
  expect(await hostOf(sessionId)).toBe(first)
  await checkLedger(context, workspace.id)
  expect(await handOver(workspace, first ?? '', [{ sessionId, to: third ?? '' }])).toMatchObject([{ outcome: 'handedOver', to: 'Host 2' }])
  expect(await hostOf(sessionId)).toBe(third)
  expect(await handOver(workspace, first ?? '', [{ sessionId, to: null }]), 'it is not theirs any more').toMatchObject([{ outcome: 'notFound' }])
  await checkLedger(context, workspace.id)
})

it('tells of a request that waits for approval only who is to decide on it now, and who no longer is', async () => {
  const workspace = await makeWorkspace(context, { hosts: 2, eventTypes: [{ slug: 'talk', settings: { places, approval: true } }] })
  const { bookingId, sessionId, email } = await bookNext(app, context, workspace)
  await until(async () => (await deliveriesOf(context, bookingId)).every(item => item.state === 'sent'), 20, 'No request mail')
  const before = await hostOf(sessionId)
  const [old, next] = workspace.hosts[0]?.id === before ? workspace.hosts : [...workspace.hosts].reverse()
  await handOver(workspace, before, [{ sessionId, to: null }])
  await until(async () => (await deliveriesOf(context, bookingId)).every(item => item.state === 'sent'), 20, 'Not everybody hears of it')
  expect((await inbox(email)).map(mail => mail.subject.split(':')[0])).toEqual(['Requested'])
  expect((await inbox(next?.email ?? ''))[0]?.subject).toMatch(/^To approve/)
  const [given] = await inbox(old?.email ?? '')
  expect(given?.subject).toMatch(/^No longer yours/)
  expect(await mailText(given?.id ?? ''), 'it was in no calendar').not.toContain('METHOD:')
})

it('hands thirty sessions over while clients book, and nobody sits in two', async () => {
  const workspace = await makeWorkspace(context, { hosts: 4, hours: 'Mo-Su 08:00-20:00', eventTypes: [{ slug: 'talk', settings: { places } }] })
  const path = `${workspace.slug}/talk`
  const starts = await startsOf(app, path, 2, 12)
  const early = await Promise.all(starts.filter((_, index) => index % 2 === 0).slice(0, 130).map(start => book(app, path, request(start))))
  const leaving = workspace.hosts[0]?.id ?? ''
  const booked = await Promise.all(early.filter(answer => answer.status === 201).map(answer => bookedOf(context, answer.body)))
  const own = []
  for (const item of booked) if (await hostOf(item.sessionId) === leaving) own.push(item)
  expect(own.length).toBeGreaterThanOrEqual(30)
  const seats = own.slice(0, 30).map(item => ({ sessionId: item.sessionId, to: null }))
  const [results, ...late] = await Promise.all([
    handOver(workspace, leaving, seats),
    ...starts.slice(0, 130).map(start => book(app, path, request(start))),
  ])
  expect(late.every(answer => answer.status === 201 || answer.status === 409)).toBe(true)
  expect(late.filter(answer => answer.status === 201).length).toBeGreaterThan(20)
  expect(results.every(result => result.outcome === 'handedOver' || result.outcome === 'nobodyFree')).toBe(true)
  expect(results.filter(result => result.outcome === 'handedOver').length).toBeGreaterThan(15)
  for (const { sessionId, outcome } of results) expect(await hostOf(sessionId) === leaving).toBe(outcome === 'nobodyFree')
  expect(await overlapsOf(context, workspace.id)).toBe(0)
  await checkLedger(context, workspace.id)
  const sitting = await context.db.select().from(sessionHosts)
    .where(and(eq(sessionHosts.workspaceId, workspace.id), eq(sessionHosts.active, true)))
  expect(sitting).toHaveLength(booked.length + late.filter(answer => answer.status === 201).length)
})
