import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { book, call, inbox, post, rawMail, request, startsOf } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace
const path = (slug = 'talk') => `${workspace.slug}/${slug}`

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, {
    hosts: 1,
    eventTypes: [
      {
        slug: 'talk',
        settings: {
          questions: [{ key: 'why', kind: 'paragraph', label: 'Why?', required: true }],
          places: [{ key: 'studio', kind: 'address', label: 'studio', detail: 'Pátio do Prelo 7' }],
        },
      },
      {
        slug: 'call',
        settings: {
          places: [
            { key: 'call', kind: 'phoneWeCall', label: '', detail: '' },
            { key: 'here', kind: 'address', label: 'here', detail: 'Here 1' },
          ],
        },
      },
      {
        slug: 'asked',
        settings: { approval: true, places: [{ key: 'studio', kind: 'address', label: 'studio', detail: 'Pátio do Prelo 7' }] },
      },
    ],
  })
})
afterAll(() => closeContext(context))

const answered = { answers: { why: 'Because' } }

describe('pages', () => {
  it('tell what can be booked, and never more', async () => {
    const { body } = await call(`${app}/api/public/${workspace.slug}`)
    expect(body.eventTypes.map((type: { slug: string }) => type.slug)).toEqual(['talk', 'call', 'asked'])
    const page = await call(`${app}/api/public/${path()}`)
    expect(page.body.eventType).toMatchObject({
      slug: 'talk',
      durations: [30],
      seats: 1,
      questions: [{ key: 'why', kind: 'paragraph', required: true }],
    })
    expect(JSON.stringify(page.body)).not.toMatch(/Prelo|host0@/)
  })

  it('carry their styles with them, so that nothing is waited for before they show', async () => {
    const html: string = (await call(`${app}/${path()}`)).body
    const sheets = html.match(/<link[^>]*rel="stylesheet"[^>]*>/g) ?? []
    expect(sheets.length).toBeGreaterThan(0)
    for (const sheet of sheets) expect(sheet).toMatch(/ disabled>$/)
    expect(/<style[^>]*>[^<]*\.timetable button/.test(html), 'the timetable’s style stands in the document').toBe(true)
  })

  it.each([
    'nowhere',
    'nowhere/talk',
    'nowhere/talk/openings?from=2027-01-01&to=2027-01-02&timeZone=UTC',
    'bookings/guess',
    'bookings/guess/calendar.ics',
  ])('answer 404 alike for %s', async (where) => {
    const answer = await call(`${app}/api/public/${where}`)
    expect(answer).toMatchObject({ status: 404, body: { type: '/problems/not-found', status: 404, title: 'Not found', detail: 'There is nothing at this address.' } })
    expect(answer.type).toContain('application/problem+json')
  })

  it('give their openings in the dates of the asked zone', async () => {
    const { body } = await call(`${app}/api/public/${path()}/openings?from=2030-01-07&to=2030-01-07&timeZone=Asia/Kolkata`)
    expect(body.openings[0].start).toBe('2030-01-06T18:30:00Z')
    expect(body.openings).toHaveLength(48)
  })

  it.each([
    ['timeZone=UTC&to=2030-01-01', 'from'],
    ['from=2030-01-01&to=2030-01-01&timeZone=Mars/Base', 'timeZone'],
    ['from=2030-01-02&to=2030-01-01&timeZone=UTC', 'to'],
    ['from=2030-01-01&to=2030-12-01&timeZone=UTC', 'to'],
    ['from=2030-01-01&to=2030-01-02&timeZone=UTC&duration=25', 'duration'],
    ['from=2030-01-01&to=2030-01-02&timeZone=UTC&host=x', 'host'],
  ])('name the field of a query that does not fit: %s', async (query, field) => {
    expect(await call(`${app}/api/public/${path()}/openings?${query}`)).toMatchObject({ status: 400, body: { errors: [{ path: field }] } })
  })
})

describe('bookings', () => {
  it.each<[number, string, unknown, string]>([
    [400, '', '{ not json', 'talk'],
    [400, 'start', { start: 'tomorrow' }, 'talk'],
    [400, 'timeZone', { timeZone: 'Europe/Atlantis' }, 'talk'],
    [400, 'client.name', { client: { name: ' ', email: 'a@b.example' } }, 'talk'],
    [400, 'client.name', { client: { name: 'A\r\nBcc: x@y.example', email: 'a@b.example' } }, 'talk'],
    [400, 'client.email', { client: { name: 'A', email: 'a@b.example\nBcc: x@y.example' } }, 'talk'],
    [400, 'client.locale', { client: { name: 'A', email: 'a@b.example', locale: '<x>' } }, 'talk'],
    [400, 'guests.0.email', { guests: [{ email: 'nobody' }] }, 'talk'],
    [400, 'more', { more: 1 }, 'talk'],
    [422, 'answers.why', { answers: {} }, 'talk'],
    [422, 'answers.other', { answers: { why: 'x', other: 1 } }, 'talk'],
    [422, 'duration', { ...answered, duration: 45 }, 'talk'],
    [422, 'place', { place: 'moon' }, 'call'],
    [422, 'client.phone', { place: 'call' }, 'call'],
    [422, 'client.phone', { place: 'call', client: { name: 'A', email: 'a@b.example', phone: '12' } }, 'call'],
    [422, 'host', { place: 'here', host: 'x' }, 'call'],
  ])('answer %i naming “%s”', async (status, field, change, slug) => {
    const [start = ''] = await startsOf(app, path(slug))
    const body = typeof change === 'string' ? change : { ...request(start), ...(change as object) }
    const answer = await book(app, path(slug), body)
    expect(answer).toMatchObject({ status, body: { status, errors: [{ path: field, message: expect.stringMatching(/\w/) }] } })
    expect(answer.type).toContain('application/problem+json')
  })

  it('need a key, and give the same key the first answer again', async () => {
    const [start = '', other = ''] = await startsOf(app, path())
    expect(await post(`${app}/api/public/${path()}/bookings`, request(start, answered))).toMatchObject({
      status: 400,
      body: { errors: [{ path: 'Idempotency-Key' }] },
    })
    const [key, body] = [randomUUID(), request(start, answered)]
    const answers = await Promise.all([book(app, path(), body, key), book(app, path(), body, key), book(app, path(), body, key)])
    expect(answers.map(answer => answer.status)).toEqual([201, 201, 201])
    expect(new Set(answers.map(answer => JSON.stringify(answer.body))).size).toBe(1)
    expect(await book(app, path(), { ...body, start: other }, key)).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'Idempotency-Key' }] },
    })
  })

  it('are told to their client, can be kept as a calendar entry, and cancelled once', async () => {
    const [start = ''] = await startsOf(app, path())
    const email = `${randomUUID()}@client.example`
    const made = await book(app, path(), request(start, { ...answered, client: { name: 'Ana', email } }))
    expect(made.body.booking).toMatchObject({
      state: 'confirmed',
      start,
      hosts: ['Host 0'],
      room: null,
      place: { detail: 'Pátio do Prelo 7' },
    })
    const token = new URL(made.body.manage).pathname.split('/').at(-1)
    const mine = `${app}/api/public/bookings/${token}`
    expect((await call(mine)).body.booking).toEqual(made.body.booking)
    const entry = await call(`${mine}/calendar.ics`)
    expect(entry.type).toContain('text/calendar')
    expect(entry.body).toContain(`DTSTART:${start.replace(/[-:]/g, '')}`)
    expect((await post(`${mine}/cancel`, { reason: 'x'.repeat(501) })).body.errors).toMatchObject([
      { path: 'reason', code: 'tooLong', values: { most: 500 }, message: 'At most 500 characters' },
    ])
    expect((await post(`${mine}/cancel`, { reason: 'Found it' })).body.booking.state).toBe('cancelled')
    expect((await post(`${mine}/cancel`, {})).body.booking.state).toBe('cancelled')
    expect(await startsOf(app, path())).toContain(start)
    await expect
      .poll(async () => (await inbox(email)).map(mail => mail.subject.split(':')[0]), { timeout: 15_000 })
      .toEqual(['Cancelled', expect.stringContaining('Talk')])
    const [cancelled, booked] = await Promise.all((await inbox(email)).map(mail => rawMail(mail.id)))
    expect(booked).toMatch(/text\/calendar;[^\n]*method=REQUEST/)
    expect(cancelled).toMatch(/text\/calendar;[^\n]*method=CANCEL/)
  })

  it('that need approval give no place away before it', async () => {
    const [start = ''] = await startsOf(app, path('asked'))
    const made = await book(app, path('asked'), request(start))
    expect(made.body.booking).toMatchObject({ state: 'awaitingApproval', place: { label: 'studio' } })
    expect(JSON.stringify(made.body)).not.toContain('Prelo')
  })

  it('carry odd names and answers to mail and calendar intact and harmless', async () => {
    const name = 'Quill, "Ink" & Söhne مرحبا 📜'
    const why = '<script>alert(1)</script>\nBEGIN:VEVENT\n{{ workspace.name }}'
    const [start = ''] = await startsOf(app, path())
    const email = `${randomUUID()}@client.example`
    const made = await book(app, path(), request(start, { client: { name, email }, answers: { why } }))
    expect(made.status).toBe(201)
    await expect.poll(() => inbox(email), { timeout: 15_000 }).toHaveLength(1)
    const [mail] = await inbox(email)
    const shown = await call(`${inject('pigeonhole')}/message/${mail?.id}/html`)
    expect(shown.body).not.toContain('<script>')
    expect(shown.body).toContain('&lt;script&gt;alert(1)&lt;/script&gt;')
    expect(shown.body).toContain('{{ workspace.name }}')
    expect(shown.body).toContain('مرحبا 📜')
    const entry = (
      await call(
        `${new URL(made.body.manage).origin}/api/public/bookings/${new URL(made.body.manage).pathname.split('/').at(-1)}/calendar.ics`,
      )
    ).body.replace(/\r\n /g, '')
    expect(entry.match(/^BEGIN:VEVENT/gm)).toHaveLength(1)
    expect(entry).toContain('SUMMARY:Quill\\, "Ink" & Söhne مرحبا 📜: Talk')
  })
})

describe('the desk', () => {
  it('is for members of the workspace only', async () => {
    for (const where of [
      'me',
      'today?timeZone=UTC',
      'event-types',
      'connections',
      `sessions/${randomUUID()}`,
      `event-types/${randomUUID()}`,
    ]) {
      expect(await call(`${app}/api/desk/${where}`)).toMatchObject({ status: 401 })
    }
    expect(await post(`${app}/api/desk/sign-in`, { email: workspace.owner.email, password: 'wrong' })).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'password' }] },
    })
    expect(await post(`${app}/api/desk/sign-in`, { email: workspace.owner.email })).toMatchObject({
      status: 400,
      body: { errors: [{ path: 'password' }] },
    })
    expect(await post(`${app}/api/desk/sign-in`, workspace.owner, { 'sec-fetch-site': 'cross-site' })).toMatchObject({ status: 403 })
  })

  it('shows a session with its answers and trail, and closes its booking with a reason that the client is told', async () => {
    const cookie = await signIn()
    const email = `${randomUUID()}@client.example`
    const [start = ''] = await startsOf(app, path())
    const made = await book(app, path(), request(start, { ...answered, client: { name: 'Ana', email } }))
    const {
      rows: [row],
    } = await context.pool.query<{ session: string }>('select session_id as session from bookings where id = $1', [made.body.booking.id])
    const where = `${app}/api/desk/sessions/${row?.session}`
    const { body: session } = await call(where, { headers: { cookie } })
    expect(session).toMatchObject({
      cancelled: false,
      room: null,
      hosts: [{ name: 'Host 0' }],
      place: { kind: 'address' },
      bookings: [{ state: 'confirmed', client: { email }, answers: [{ label: 'Why?', text: 'Because' }] }],
    })
    expect(session.trail.map((item: { entry: { code: string } }) => item.entry.code)).toEqual(
      expect.arrayContaining(['booked', 'assigned']),
    )
    expect(await post(`${where}/room`, {}, { cookie })).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('not failing') },
    })

    const close = (body: object) => post(`${app}/api/desk/bookings/${made.body.booking.id}/close`, body, { cookie })
    expect(await close({ state: 'declined' })).toMatchObject({ status: 409 })
    expect(await close({ state: 'vanished' })).toMatchObject({ status: 400, body: { errors: [{ path: 'state' }] } })
    expect((await close({ state: 'cancelled', reason: 'The studio is flooded' })).status).toBe(200)
    expect((await close({ state: 'cancelled' })).status).toBe(409)
    await expect.poll(async () => (await inbox(email)).map(mail => mail.subject.split(':')[0]), { timeout: 15_000 }).toContain('Cancelled')
    const cancelled = (await inbox(email)).find(mail => mail.subject.startsWith('Cancelled'))
    expect((await call(`${inject('pigeonhole')}/message/${cancelled?.id}`)).body).toContain('The studio is flooded')
    expect((await call(where, { headers: { cookie } })).body).toMatchObject({
      cancelled: true,
      bookings: [{ state: 'cancelled', cancelReason: 'The studio is flooded' }],
    })
  })

  it('knows today’s sessions by the dates of the asked zone, and forgets who signed out', async () => {
    const cookie = await signIn()
    const today = await call(`${app}/api/desk/today?timeZone=Pacific/Kiritimati`, { headers: { cookie } })
    expect(today.body).toMatchObject({
      hosts: [{ name: 'Host 0', own: false }],
      today: expect.any(Array),
      comingDays: expect.any(Array),
      waiting: expect.any(Array),
    })
    expect(await call(`${app}/api/desk/today?timeZone=Mars/Base`, { headers: { cookie } })).toMatchObject({
      status: 400,
      body: { errors: [{ path: 'timeZone' }] },
    })
    const left = await fetch(`${app}/api/desk/sign-out`, { method: 'POST', headers: { cookie } })
    const after = left.headers.get('set-cookie')?.split(';')[0] ?? ''
    expect((await call(`${app}/api/desk/me`, { headers: { cookie: after } })).status).toBe(401)
  })

  async function signIn(who = workspace.owner): Promise<string> {
    const response = await fetch(`${app}/api/desk/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(who),
    })
    const cookie = response.headers.get('set-cookie') ?? ''
    expect(cookie).toMatch(/HttpOnly/i)
    expect(cookie).toMatch(/SameSite=Lax/i)
    return cookie.split(';')[0] ?? ''
  }
})

describe('the whole', () => {
  it('describes itself', async () => {
    const { body } = await call(`${app}/api/openapi.json`)
    expect(body.openapi).toBe('3.1.0')
    expect(body.paths['/api/public/{workspace}/{eventType}/bookings'].post.responses['409']).toBeDefined()
    expect((await call(`${app}/api/nothing`)).type).toContain('application/problem+json')
    expect((await call(`${app}/health/ready`)).body).toEqual({ ready: true })
  })
})
