import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { connect } from 'node:net'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import { eventTypes } from '../server/database/schema'
import { useApplication } from './support/application'
import { timeLimit } from './support/campaign'
import { book, call, post, request, sessionCookie, signIn, startsOf } from './support/http'
import { bookNext, subjects, tokenOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** What a stranger meets before any use case: limits, headers, bodies, connections, and what is left in the log. */

const own = useApplication('doors', {
  SIGN_INS_PER_QUARTER_HOUR: '12',
  READS_PER_MINUTE: '40',
  MAX_CONNECTIONS_PER_SOURCE: '30',
  TRUSTED_PROXIES: '10.0.0.0/8',
  BOOKINGS_PER_MINUTE: '100000',
  TOKEN_GUESSES_PER_MINUTE: '1000',
})
const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
let workspace: TestWorkspace
beforeAll(async () => {
  workspace = await makeWorkspace(own.context, {
    hosts: 1,
    eventTypes: [{ slug: 'talk', settings: { places, questions: [{ key: 'why', kind: 'paragraph', label: 'Why?', required: false }] } }],
  })
})

/** As from another source: the application believes this machine to be a proxy. */
const from = (address: string) => ({ 'x-forwarded-for': address })

describe('limits', () => {
  const guess = (headers: Record<string, string>, email = workspace.owner.email, password = 'a guess') =>
    post(`${own.url}/api/desk/sign-in`, { email, password }, headers)

  it('count one source over many accounts, and believe no X-Forwarded-For of strangers', async () => {
    const statuses = []
    for (let index = 0; index < 40; index++) statuses.push((await guess(from(`203.0.113.${index}`), `nobody${index}@place.example`)).status)
    expect(statuses.indexOf(429)).toBe(36)
  })

  it('slow guessing at one account from many sources down, and never lock its owner out', async () => {
    await own.process.stop()
    await own.start({ TRUSTED_PROXIES: '127.0.0.1, 10.0.0.0/8' })
    for (let index = 0; index < 13; index++) expect((await guess(from(`203.0.113.${index}, 10.0.0.1`))).status).toBe(422)
    const startedAt = Date.now()
    const right = await guess(from('198.51.100.1'), workspace.owner.email, workspace.owner.password)
    expect(right.status).toBe(200)
    expect(Date.now() - startedAt, 'waited before the answer').toBeGreaterThan(500)
    const after = Date.now()
    expect((await guess(from('198.51.100.2'), workspace.owner.email, workspace.owner.password)).status).toBe(200)
    expect(Date.now() - after, 'forgotten after a success').toBeLessThan(timeLimit(500))
  })

  it('count all addresses of one IPv6 customer as one', async () => {
    const statuses = []
    for (let index = 0; index < 40; index++)
      statuses.push((await guess(from(`2001:db8:1:1::${index.toString(16)}`), `nobody${index}@other.example`)).status)
    expect(statuses.indexOf(429)).toBe(36)
    expect((await guess(from('2001:db8:1:2::1'), 'nobody@other.example')).status).toBe(422)
  })

  it('hold for public reads too, without a write for each', async () => {
    const writes = async () => (await own.context.pool.query('select count(*), sum(points) from rate_limits')).rows[0]
    const before = await writes()
    const statuses = []
    for (let index = 0; index < 45; index++)
      statuses.push(
        (
          await call(`${own.url}/api/public/${workspace.slug}/talk/openings?from=2030-01-07&to=2030-01-07&timeZone=UTC`, {
            headers: from('192.0.2.7'),
          })
        ).status,
      )
    expect(statuses.indexOf(429)).toBe(40)
    expect((await fetch(`${own.url}/${workspace.slug}`, { headers: from('192.0.2.7') })).status).toBe(429)
    expect((await fetch(`${own.url}/${workspace.slug}`, { headers: from('192.0.2.8') })).status).toBe(200)
    expect(await writes()).toEqual(before)
  })
})

describe('bodies and connections', () => {
  const port = () => Number(new URL(own.url).port)

  /** Sends raw bytes bit by bit; resolves with what came back when the connection closed, and after how long. */
  function trickle(head: string, bit: string, everyMs: number): Promise<{ answer: string, seconds: number }> {
    return new Promise((resolve) => {
      const startedAt = Date.now()
      const socket = connect(port(), '127.0.0.1')
      let answer = ''
      socket.write(head)
      const timer = setInterval(() => socket.write(bit), everyMs)
      socket.on('data', chunk => (answer += chunk.toString()))
      socket.on('error', () => {})
      socket.on('close', () => {
        clearInterval(timer)
        resolve({ answer, seconds: (Date.now() - startedAt) / 1000 })
      })
    })
  }

  it('a large one is refused while it comes in, whether or not it says how large it is', async () => {
    const sent = await new Promise<number>((resolve) => {
      const chunk = Buffer.alloc(64 * 1024, 'x')
      let bytes = 0
      const sending = httpRequest({
        port: port(),
        method: 'POST',
        path: '/api/desk/sign-in',
        headers: { 'content-type': 'application/json', 'transfer-encoding': 'chunked', ...from('192.0.2.20') },
      })
      sending.on('response', (response) => {
        expect(response.statusCode).toBe(413)
        response.resume()
      })
      sending.on('error', () => resolve(bytes)).on('close', () => resolve(bytes))
      const more = () => {
        if (sending.destroyed || bytes >= 40 * 1024 * 1024) return
        bytes += chunk.length
        if (sending.write(chunk)) setImmediate(more)
        else sending.once('drain', more)
      }
      more()
    })
    expect(sent).toBeLessThan(10 * 1024 * 1024)
    const declared = await trickle(
      `POST /api/desk/sign-in HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 41943040\r\nX-Forwarded-For: 192.0.2.21\r\n\r\n`,
      'x',
      100,
    )
    expect(declared.answer).toContain('413')
    expect(declared.seconds).toBeLessThan(timeLimit(5))
  })

  it('a slow one does not hold a connection, whichever call it goes to', async () => {
    const [body, head, ignored] = await Promise.all([
      trickle(
        'POST /api/desk/sign-in HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 5000\r\nX-Forwarded-For: 192.0.2.22\r\n\r\n',
        ' ',
        500,
      ),
      trickle('GET / HTTP/1.1\r\nHost: x\r\n', 'X-Slow: x\r\n', 500),
      trickle('GET /health/live HTTP/1.1\r\nHost: x\r\nContent-Length: 5000\r\n\r\n', ' ', 500),
    ])
    expect(body.answer).toContain('408')
    for (const { seconds } of [body, head, ignored]) expect(seconds).toBeLessThan(40)
  }, 60_000)

  it('are bounded in number for one source', async () => {
    await own.process.stop()
    await own.start({ TRUSTED_PROXIES: '10.0.0.0/8' })
    const sockets = Array.from({ length: 60 }, () => connect(port(), '127.0.0.1'))
    let closed = 0
    for (const socket of sockets) socket.on('error', () => {}).on('close', () => closed++)
    await expect.poll(() => closed, { timeout: 5000 }).toBeGreaterThanOrEqual(30)
    for (const socket of sockets) socket.destroy()
    await expect.poll(async () => (await fetch(`${own.url}/health/live`).catch(() => null))?.status, { timeout: 5000 }).toBe(200)
  })
})

describe('headers', () => {
  it('keep desk answers and clients’ pages out of every cache', async () => {
    await own.process.stop()
    await own.start({ READS_PER_MINUTE: '100000', SIGN_INS_PER_QUARTER_HOUR: '1000' })
    const cookie = await signIn(own.url, workspace.owner)
    const booked = await bookNext(own.url, own.context, workspace)
    const mine = `/api/public/bookings/${tokenOf(booked)}`
    for (const [path, headers] of [
      ['/api/desk/me', cookie],
      ['/api/desk/today?timeZone=UTC', cookie],
      ['/api/desk/me', {}],
      ['/desk', cookie],
      [mine, {}],
      [`${mine}/page`, {}],
      [`${mine}/calendar.ics`, {}],
      [`/bookings/${tokenOf(booked)}`, {}],
    ] as const) {
      expect((await fetch(own.url + path, { headers })).headers.get('cache-control'), path).toBe('no-store')
    }
  })

  it('say nothing of other sites’ writes but no', async () => {
    const { cookie } = await signIn(own.url, workspace.owner)
    const write = async (headers: Record<string, string>) =>
      (await post(`${own.url}/api/desk/event-types`, { name: 'From elsewhere' }, { cookie, ...headers })).status
    expect(await write({ origin: 'https://evil.example' })).toBe(403)
    expect(await write({ origin: 'null' })).toBe(403)
    expect(await write({ 'sec-fetch-site': 'cross-site', 'origin': own.url })).toBe(403)
    expect(await write({ origin: own.url })).toBe(200)
    expect(await write({})).toBe(200)
  })

  it('give error pages the same policy as pages', async () => {
    const policy = async (path: string) =>
      (await fetch(own.url + path, { headers: { accept: 'text/html' } })).headers.get('content-security-policy') ?? ''
    const strict = /script-src [^;]*'nonce-[^']+'/
    expect(await policy(`/${workspace.slug}`)).toMatch(strict)
    for (const path of ['/api/nothing', '/__nuxt_error?statusCode=404', '/api/desk/me'])
      expect(await policy(path), path).toContain('default-src \'none\'')
    for (const path of ['/nowhere', `/${workspace.slug}/nothing`, `/bookings/${'x'.repeat(54)}`]) {
      const answer = await fetch(own.url + path, { headers: { accept: 'text/html' } })
      expect(answer.status, path).toBe(404)
      expect(answer.headers.get('content-security-policy'), path).toMatch(strict)
      expect(answer.headers.get('content-security-policy'), path).toContain('frame-ancestors \'none\'')
    }
  })

  it('on https are Secure cookies and HSTS, decided when the application starts', async () => {
    await own.process.stop()
    await own.start({ BASE_URL: 'https://book.example', READS_PER_MINUTE: '100000', SIGN_INS_PER_QUARTER_HOUR: '1000' })
    const answer = await fetch(`${own.url}/api/desk/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(workspace.owner),
    })
    expect(answer.headers.getSetCookie().at(-1)).toMatch(/; Secure/i)
    expect(answer.headers.get('strict-transport-security')).toMatch(/max-age=\d{8}/)
    expect((await fetch(`${own.url}/${workspace.slug}`)).headers.get('strict-transport-security')).toMatch(/max-age/)
    await own.process.stop()
    await own.start({ READS_PER_MINUTE: '100000', SIGN_INS_PER_QUARTER_HOUR: '1000' })
    const plain = await fetch(`${own.url}/api/desk/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(workspace.owner),
    })
    expect(plain.headers.getSetCookie().at(-1)).not.toMatch(/; Secure/i)
    expect(plain.headers.get('strict-transport-security')).toBeNull()
    expect(sessionCookie(plain)).not.toBe('')
  })
})

it('nothing personal or secret is left in any log, also where things fail', async () => {
  const marker = randomUUID().slice(0, 8)
  const client = { name: `Name${marker}`, email: `mail${marker}@client.example`, phone: '+351912345678' }
  const booked = await bookNext(own.url, own.context, workspace, 'talk', {
    client,
    answers: { why: `Answer${marker}` },
    source: `Source${marker}`,
  })
  await expect.poll(() => subjects(booked.email), { timeout: 15_000 }).toHaveLength(1)
  const token = tokenOf(booked)
  await fetch(`${own.url}/bookings/${token}`)
  await post(`${own.url}/api/desk/sign-in`, { email: client.email, password: `Secret${marker}` })
  // Errors that nobody foresaw: settings that cannot be read, in calls, pages and jobs; and a database that goes away.
  const [eventType] = await own.context.db.select().from(eventTypes).where(eq(eventTypes.workspaceId, workspace.id))
  const path = `${workspace.slug}/talk`
  const [start = ''] = await startsOf(own.url, path)
  await own.context.db.update(eventTypes).set({ settings: {} as never }).where(eq(eventTypes.id, eventType?.id ?? ''))
  expect((await book(own.url, path, request(start, { client }))).status).toBe(500)
  expect((await fetch(`${own.url}/bookings/${token}`)).status).toBeGreaterThanOrEqual(200)
  await fetch(`${own.url}/${path}`)
  expect((await post(`${own.url}/api/public/bookings/${token}/cancel`, { reason: `Reason${marker}` })).status).toBeLessThan(600)
  // A statement that fails while it holds what the client entered.
  await own.context.pool
    .query(`create function refuse() returns trigger language plpgsql as $$ begin raise exception 'refused' using detail = new.client_name; end $$;
    create trigger refuse before insert on bookings for each row execute function refuse()`)
  await own.context.db.update(eventTypes).set({ settings: eventType?.settings }).where(eq(eventTypes.id, eventType?.id ?? ''))
  expect((await book(own.url, path, request(start, { client }))).status).toBe(500)
  await own.context.pool.query('drop trigger refuse on bookings; drop function refuse()')
  own.database.cut()
  await book(own.url, path, request(start, { client }))
  await fetch(`${own.url}/bookings/${token}`)
  own.database.mend()
  await expect.poll(async () => (await fetch(`${own.url}/health/ready`)).status, { timeout: 20_000 }).toBe(200)

  const log = readFileSync(join(own.folder, 'app.log'), 'utf8')
  expect(log, 'the log says that things failed').toMatch(/ZodError|POST \/api\/public/)
  const whole = log + readFileSync(join(inject('folder'), 'postgres.log'), 'utf8')
  for (const secret of [marker, token, client.phone, own.environment['TEMPORIA_SECRET'] ?? '-'])
    expect(whole.includes(secret), `${secret} in a log`).toBe(false)
})
