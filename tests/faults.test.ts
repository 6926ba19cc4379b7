import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import pg from 'pg'
import { afterAll, afterEach, beforeAll, describe, expect, inject, it } from 'vitest'
import { saySentence } from '../core/booking/trail'
import { freePort } from '../scripts/run/ports'
import type { Started } from '../scripts/run/processes'
import { startApp } from '../scripts/run/services'
import type { Context } from '../server/context'
import { bookings, rooms } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { readTrail } from '../server/trail'
import { book, inbox, rawMail, request, setFault, startsOf } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** An application of its own on a database of its own, so that it can be killed. */
let places: Parameters<typeof startApp>[0]
let environment: Record<string, string>
let application: Started
let context: Context
let workspace: TestWorkspace
let url = ''

beforeAll(async () => {
  const database = new URL(inject('databaseUrl'))
  const client = new pg.Client({ connectionString: database.href })
  await client.connect()
  await client.query('create database faults')
  await client.end()
  database.pathname = '/faults'
  const appPort = await freePort(inject('serverPort') + 60, new Set())
  const folder = join(inject('folder'), 'faults')
  mkdirSync(folder, { recursive: true })
  places = { folder, appPort, lanternPort: 0, pigeonholePort: 0, smtpPort: 0 }
  url = `http://127.0.0.1:${appPort}`
  environment = { ...inject('environment'), DATABASE_URL: database.href, BASE_URL: url, PORT: String(appPort), ROOM_WAIT_SECONDS: '5', RETRY_PACE: '0.5' }
  context = await makeContext(environment)
  workspace = await makeWorkspace(context, { hosts: 1, video: true, eventTypes: [{ slug: 'talk' }] })
  application = await startApp(places, environment)
})
afterEach(async () => {
  await setFault('lantern', 'none')
  await setFault('pigeonhole', 'none')
})
afterAll(async () => {
  await application.stop()
  await closeContext(context)
})

async function bookNext(): Promise<{ bookingId: string, sessionId: string, email: string }> {
  const path = `${workspace.slug}/talk`
  const [start = ''] = await startsOf(url, path)
  const body = request(start)
  const answer = await book(url, path, body)
  expect(answer.status).toBe(201)
  const bookingId: string = answer.body.booking.id
  const [row] = await context.db.select().from(bookings).where(eq(bookings.id, bookingId))
  return { bookingId, sessionId: row?.sessionId ?? '', email: row?.clientEmail ?? '' }
}

async function trailOf(sessionId: string): Promise<string[]> {
  return (await readTrail(context.db, workspace.id, sessionId)).map(entry => saySentence(entry.entry, 'UTC', 'en-GB')).reverse()
}

async function roomState(sessionId: string): Promise<string | undefined> {
  return (await context.db.select().from(rooms).where(eq(rooms.sessionId, sessionId)))[0]?.state
}

const subjects = async (address: string) => (await inbox(address)).map(mail => mail.subject.split(':')[0]?.split(',')[0]).reverse()

describe('the video service', () => {
  it('works: the confirmation holds the link', async () => {
    const { email } = await bookNext()
    await expect.poll(() => subjects(email), { timeout: 15_000 }).toEqual(['Talk'])
    expect(await rawMail((await inbox(email))[0]?.id ?? '')).toMatch(/\/room\//)
  })

  it('answers 503 three times: the booking stands, the link follows, the trail shows each try', async () => {
    await setFault('lantern', 'failing', 3)
    const { sessionId, email } = await bookNext()
    await expect.poll(() => subjects(email), { timeout: 40_000 }).toEqual(['Talk', 'Your video link'])
    const trail = await trailOf(sessionId)
    expect(trail.filter(sentence => sentence.startsWith('Lantern Rooms answered 503'))).toHaveLength(3)
    expect(trail).toContainEqual(expect.stringMatching(/made room .* at try 4/))
    expect(trail).toContainEqual(expect.stringMatching(/saying that the video link follows/))
  })

  it('does not answer for 10 s: the same', async () => {
    await setFault('lantern', 'slow', 1, 12)
    const { sessionId, email } = await bookNext()
    await expect.poll(() => subjects(email), { timeout: 40_000 }).toEqual(['Talk', 'Your video link'])
    expect(await trailOf(sessionId)).toContainEqual(expect.stringMatching(/did not answer for 10 s; trying again at/))
  })

  it('loses its answer: asking again finds the same room and makes no second one', async () => {
    await setFault('lantern', 'losing', 1)
    const { sessionId } = await bookNext()
    await expect.poll(() => roomState(sessionId), { timeout: 20_000 }).toBe('ready')
    const [room] = await context.db.select().from(rooms).where(eq(rooms.sessionId, sessionId))
    const page = await (await fetch(inject('lantern'))).text()
    expect(page.split(room?.number ?? '-').length - 1).toBe(1)
  })
})

describe('the mail server', () => {
  it('refuses for a moment: the mail comes once it takes it', async () => {
    await setFault('pigeonhole', 'failing')
    const { email, sessionId } = await bookNext()
    await expect.poll(() => trailOf(sessionId), { timeout: 30_000 }).toContainEqual(expect.stringMatching(/^Could not mail the confirmation to .*trying again at/))
    expect(await inbox(email)).toHaveLength(0)
    await setFault('pigeonhole', 'none')
    await expect.poll(() => subjects(email), { timeout: 30_000 }).toEqual(['Talk'])
  })
})

describe('the application', () => {
  it('is killed between booking and mail: after a restart room and mails come, each once', async () => {
    await setFault('lantern', 'slow', 1, 4)
    const { bookingId, sessionId, email } = await bookNext()
    await expect.poll(() => roomState(sessionId), { timeout: 10_000 }).toBe('making')
    await application.stop('SIGKILL')
    expect(await inbox(email)).toHaveLength(0)
    application = await startApp(places, environment)
    const [host] = workspace.hosts
    const hostMails = async () => (await inbox(host?.email ?? '')).filter(mail => mail.messageId.includes(bookingId))
    await expect.poll(() => roomState(sessionId), { timeout: 30_000 }).toBe('ready')
    await expect.poll(async () => (await inbox(email)).length, { timeout: 30_000 }).toBeGreaterThan(0)
    await expect.poll(async () => (await hostMails()).length, { timeout: 30_000 }).toBeGreaterThan(0)
    // Long enough for anything that was left behind to come a second time.
    await new Promise(resolve => setTimeout(resolve, 7000))
    const ids = [...await inbox(email), ...await hostMails()].map(mail => mail.messageId)
    expect(new Set(ids).size).toBe(ids.length)
    const [room] = await context.db.select().from(rooms).where(eq(rooms.sessionId, sessionId))
    expect((await (await fetch(inject('lantern'))).text()).split(room?.number ?? '-').length - 1).toBe(1)
  })
})
