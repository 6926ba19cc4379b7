import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { members, memberSessions, workspaces } from '../server/database/schema'
import { cleanUp } from '../server/maintenance'
import { accountsOf, endSessionsOf } from '../server/people'
import { passwordResetToken } from '../server/secrets'
import { closeContext, makeContext } from '../server/start'
import { book, call, confirmationLink, inbox, mailText, post, request, sessionCookie, signIn, startsOf } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Signing up, confirming an address, signing in and out. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
})
afterAll(() => closeContext(context))

const me = (cookie: string) => call(`${app}/api/desk/me`, { headers: { cookie } })
const soon = { timeout: 15_000 }

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- answers are compared, not used
async function send(path: string, body: unknown, cookie = ''): Promise<{ status: number, body: any, cookie: string }> {
  const response = await fetch(`${app}/api/desk/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...(cookie ? { cookie } : {}) },
    body: JSON.stringify(body),
  })
  return { status: response.status, body: await response.json(), cookie: sessionCookie(response) }
}

describe('a session', () => {
  it('ends with sign-out: the old cookie opens nothing', async () => {
    const { cookie } = await signIn(app, workspace.owner)
    expect((await me(cookie)).status).toBe(200)
    await send('sign-out', {}, cookie)
    expect((await me(cookie)).status).toBe(401)
  })

  it('has a new id at every sign-in, and the one before ends; other devices go on', async () => {
    const elsewhere = await signIn(app, workspace.owner)
    const before = await signIn(app, workspace.owner)
    const after = await send('sign-in', workspace.owner, before.cookie)
    expect(after.cookie).not.toBe(before.cookie)
    expect([(await me(before.cookie)).status, (await me(after.cookie)).status, (await me(elsewhere.cookie)).status]).toEqual([
      401, 200, 200,
    ])
  })

  it('is a row with its device, and ends with all others of its member', async () => {
    const response = await fetch(`${app}/api/desk/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0' },
      body: JSON.stringify(workspace.owner),
    })
    const cookie = sessionCookie(response)
    const rows = await context.db.select().from(memberSessions).where(eq(memberSessions.workspaceId, workspace.id))
    expect(rows.map(row => row.device)).toContain('Firefox on Linux')
    expect(JSON.stringify(rows)).not.toContain(cookie.slice(-30))
    const [account] = await accountsOf(context.db, workspace.owner.email)
    await endSessionsOf(context.db, account?.id ?? '')
    expect((await me(cookie)).status).toBe(401)
  })

  it('is held by no cookie that was made up or sealed elsewhere', async () => {
    for (const cookie of ['temporia=x', `temporia=${Buffer.from('{}').toString('base64')}`, `temporia=${randomUUID()}`])
      expect((await me(cookie)).status).toBe(401)
    for (const method of ['GET', 'DELETE']) expect((await fetch(`${app}/api/_auth/session`, { method })).status).toBe(404)
  })
})

describe('signing up', () => {
  const person = (email: string = `${randomUUID()}@place.example`) => ({
    workspace: 'Quire and Fold',
    name: 'Ines Cardoso',
    email,
    password: 'marble under the snow',
    timeZone: 'Europe/Lisbon',
  })
  const tokenFor = async (email: string) => new URL(await confirmationLink(email)).searchParams.get('token') ?? ''
  const answers = { days: ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'], from: '00:00', to: '24:00', timeZone: 'Europe/Lisbon' }

  it('shows its pages to members only, and takes no bookings, until the address is confirmed', async () => {
    const who = person()
    const { cookie, body: member } = await send('sign-up', who)
    expect(member).toMatchObject({ confirmed: false })
    const { body: created } = await send('begin', answers, cookie)
    const path = new URL(created.page).pathname
    const seen = async (headers: Record<string, string>) =>
      Promise.all(
        [
          `/api/public/${path.split('/')[1]}`,
          `/api/public${path}`,
          `/api/public${path}/openings?from=2027-01-04&to=2027-01-05&timeZone=UTC`,
          path,
        ].map(async where => (await fetch(app + where, { headers })).status),
      )
    expect(await seen({})).toEqual([404, 404, 404, 404])
    expect(await seen(await signIn(app, workspace.owner))).toEqual([404, 404, 404, 404])
    expect(await seen({ cookie })).toEqual([200, 200, 200, 200])
    expect((await book(app, path.slice(1), request('2027-01-04T10:00:00Z'))).status).toBe(404)

    expect((await send('confirm', { token: await tokenFor(who.email) }, cookie)).body).toMatchObject({ confirmed: true })
    expect(await seen({})).toEqual([200, 200, 200, 200])
    expect(
      (
        await book(app, path.slice(1), {
          ...request((await startsOf(app, path.slice(1)))[0] ?? ''),
          client: { name: 'A', email: 'a@b.example', phone: '+351 912 345 678' },
        })
      ).status,
    ).toBe(201)
  })

  it('tells whether an address is known to that address only', async () => {
    const known = person(workspace.owner.email)
    const unknown = person()
    const both = [await send('sign-up', known), await send('sign-up', unknown)]
    const shape = ({ status, body }: typeof both[number]) => [status, Object.keys(body).sort(), body.confirmed, body.role]
    expect(shape(both[0] as never)).toEqual(shape(both[1] as never))
    await expect.poll(async () => (await inbox(known.email)).map(mail => mail.subject), soon).toContain('You have signed up already')
    const mail = (await inbox(known.email)).find(candidate => candidate.subject === 'You have signed up already')
    expect(await mailText(mail?.id ?? '')).not.toContain('/desk/confirm')
    // The owner signs in as ever, and with nothing that the stranger chose.
    expect((await send('sign-in', workspace.owner)).body).toMatchObject({ confirmed: true, workspace: { slug: workspace.slug } })
  })

  it('with somebody else’s address gets nothing from them: the link needs the password, and the owner takes over', async () => {
    const email = `${randomUUID()}@place.example`
    const stranger = { ...person(email), password: 'i am not who i say' }
    const signedUp = await send('sign-up', stranger)
    const strangersToken = await tokenFor(email)
    // Whoever follows the link elsewhere is asked for the password, which they do not know.
    expect(await send('confirm', { token: strangersToken })).toMatchObject({ status: 422, body: { errors: [{ path: 'password' }] } })
    expect(await send('confirm', { token: strangersToken, password: 'a guess of mine' })).toMatchObject({ status: 422 })
    const mine = await send('sign-up', person(email))
    await expect.poll(async () => (await inbox(email)).length, soon).toBe(2)
    const myToken = await newestToken(email)
    expect((await send('confirm', { token: myToken }, mine.cookie)).body).toMatchObject({ confirmed: true })
    expect((await me(signedUp.cookie)).status).toBe(401)
    expect((await send('sign-in', { email, password: stranger.password })).status).toBe(422)
    expect(await context.db.select().from(members).where(eq(members.email, email))).toHaveLength(1)
    expect((await send('confirm', { token: strangersToken }, signedUp.cookie)).status).toBe(404)
  })

  it('by somebody else is deleted by whoever reads the mail', async () => {
    const who = person()
    const { cookie } = await send('sign-up', who)
    const token = await tokenFor(who.email)
    const questions = [{ key: 'size', kind: 'text', label: 'How large is it?', required: false }]
    expect((await send('question-sets', { name: 'Before we meet', questions }, cookie)).status).toBe(200)
    expect((await send('confirm/refuse', { token: `${token.slice(0, -2)}xx` })).status).toBe(404)
    expect((await send('confirm/refuse', { token })).status).toBe(200)
    expect((await me(cookie)).status).toBe(401)
    expect((await send('confirm/refuse', { token })).status).toBe(404)
  })

  it.each([
    ['password12', 'easy to guess'],
    ['qwertyuiop1', 'easy to guess'],
    ['quire-and-fold', 'your business'],
    ['ines.c@rdoso', 'your address'],
  ])('refuses the password %s with a word on why', async (password, why) => {
    expect(await send('sign-up', { ...person('ines.c@rdoso.example'), password })).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'password', message: expect.stringContaining(why) }] },
    })
  })

  it('cannot carry links to strangers in its names', async () => {
    expect(await send('sign-up', { ...person(), name: 'Win at https://evil.example' })).toMatchObject({
      status: 400,
      body: { errors: [{ path: 'name' }] },
    })
    expect(await send('sign-up', { ...person(), workspace: 'https://evil.example' })).toMatchObject({
      status: 400,
      body: { errors: [{ path: 'workspace' }] },
    })
  })

  it('that nobody confirms is deleted after a week, and its address is free again', async () => {
    const who = person()
    const { body, cookie } = await send('sign-up', who)
    await send('begin', answers, cookie)
    const later = (days: number): Context => ({ ...context, now: () => Math.floor(Date.now() / 1000) + days * 86_400 })
    const there = async () => (await context.db.select().from(workspaces).where(eq(workspaces.slug, body.workspace.slug))).length
    await cleanUp(later(6))
    expect(await there()).toBe(1)
    await cleanUp(later(8))
    expect(await there()).toBe(0)
    expect((await signIn(app, workspace.owner)).cookie).not.toBe('')
  })

  async function newestToken(email: string): Promise<string> {
    const [mail] = await inbox(email)
    return /token=([\w-]+)/.exec(await mailText(mail?.id ?? ''))?.[1] ?? ''
  }
})

describe('the beginning', () => {
  it('asked for three times at once makes one event type, and raises the version of the hours once', async () => {
    const { cookie } = await send('sign-up', {
      workspace: 'Three At Once',
      name: 'Ines',
      email: `${randomUUID()}@place.example`,
      password: 'marble under the snow',
      timeZone: 'UTC',
    })
    const hours = { days: ['MO'], from: '09:00', to: '12:00', timeZone: 'UTC' }
    const all = await Promise.all([0, 1, 2].map(() => send('begin', hours, cookie)))
    expect(all.map(item => item.status).sort()).toEqual([200, 409, 409])
    const page = all.find(item => item.status === 200)?.body.page
    for (const item of all.filter(other => other.status === 409)) expect(item.body.created.page).toBe(page)
    expect((await call(`${app}/api/desk/event-types`, { headers: { cookie } })).body).toHaveLength(1)
    const [plan] = (await call(`${app}/api/desk/hours`, { headers: { cookie } })).body
    expect((await call(`${app}/api/desk/hours/${plan.id}`, { headers: { cookie } })).body.version).toBe(2)
  })
})

it('the confirmation is mailed again on request', async () => {
  const email = `${randomUUID()}@place.example`
  const { cookie } = await send('sign-up', {
    workspace: 'Once More',
    name: 'Ines',
    email,
    password: 'marble under the snow',
    timeZone: 'UTC',
  })
  expect((await send('confirm/send', {}, cookie)).status).toBe(200)
  await expect.poll(() => inbox(email), soon).toHaveLength(2)
  expect((await post(`${app}/api/desk/confirm/send`, {}, await signIn(app, workspace.owner))).status).toBe(409)
})

describe('a forgotten password', () => {
  const newPassword = 'seven herons under a bridge'
  const links = async (email: string) => {
    const mails = (await inbox(email)).filter(mail => mail.subject === 'Choose a new password')
    return Promise.all(mails.map(async mail => /new-password\?token=([\w-]+)/.exec(await mailText(mail.id))?.[1] ?? ''))
  }

  it('is replaced by a mailed link that works once and ends all sessions; further requests mail nothing', async () => {
    const own = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
    const { cookie } = await signIn(app, own.owner)
    const ask = () => send('password/forgotten', { email: own.owner.email.toUpperCase() })
    const answers = await Promise.all([ask(), ask(), ask()])
    expect(answers.map(answer => answer.body)).toEqual(Array(3).fill({ sent: true }))
    await expect.poll(() => links(own.owner.email), soon).toHaveLength(1)
    const [token = ''] = await links(own.owner.email)
    expect((await send('password/new', { token, password: own.owner.email })).status, 'a weak one is refused').toBe(422)
    const both = await Promise.all([1, 2].map(() => send('password/new', { token, password: newPassword })))
    expect(both.map(answer => answer.status).sort()).toEqual([200, 404])
    expect((await me(cookie)).status, 'the session before').toBe(401)
    expect((await me(both.find(answer => answer.status === 200)?.cookie ?? '')).status).toBe(200)
    expect((await send('password/new', { token, password: 'another fine sentence here' })).status).toBe(404)
    expect((await send('sign-in', { ...own.owner, password: newPassword })).status).toBe(200)
  })

  it('tells nobody whether an address is known, and refuses links that are over, changed or of others', async () => {
    expect(await send('password/forgotten', { email: `${randomUUID()}@nobody.example` })).toMatchObject({ status: 200, body: { sent: true } })
    const [row] = await accountsOf(context.db, workspace.owner.email)
    if (!row) throw new Error('The owner is not there')
    const now = Math.floor(Date.now() / 1000)
    const over = passwordResetToken(context.settings.secret, row, now - 1)
    const good = passwordResetToken(context.settings.secret, row, now + 60)
    const changed = `${good.slice(0, -1)}${good.endsWith('A') ? 'B' : 'A'}`
    const foreign = passwordResetToken('another secret of thirty-two bytes', row, now + 60)
    for (const token of [over, changed, foreign, 'x'])
      expect((await send('password/new', { token, password: newPassword })).status).toBe(404)
  })
})
