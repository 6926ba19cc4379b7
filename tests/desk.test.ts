import { randomBytes } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { answerQuery, readQuery } from '../core/openings'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { useBrowser, type Visitor } from './support/browser'
import { book, call, inbox, request, startsOf } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
const arrive = useBrowser()
let context: Context
let workspace: TestWorkspace
let owner: Visitor

const place = { key: 'studio', kind: 'address', label: 'studio', detail: 'Pátio do Prelo 7' } as const

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, {
    hosts: 1,
    eventTypes: [{ slug: 'talk' }, { slug: 'asked', settings: { name: 'Assessment', approval: true, places: [place] } }],
  })
  owner = await arrive('Europe/Lisbon')
})
afterAll(async () => {
  await owner.leave()
  await closeContext(context)
})

async function bookFirst(slug: string): Promise<{ email: string, mine: string }> {
  const path = `${workspace.slug}/${slug}`
  const email = `${randomBytes(6).toString('hex')}@client.example`
  const [start = ''] = await startsOf(app, path)
  const { status, body } = await book(app, path, request(start, { client: { name: `Client ${email.slice(0, 4)}`, email } }))
  expect(status).toBe(201)
  return { email, mine: `${app}/api/public/bookings/${new URL(body.manage).pathname.split('/').at(-1)}` }
}
const stateOf = async (mine: string) => (await call(mine)).body.booking
const subjects = async (email: string) => (await inbox(email)).map(mail => mail.subject.split(':')[0])

describe('a member', () => {
  it('signs in where it was wanted to go, and is told what was wrong before', async () => {
    await owner.open(`${app}/desk/event-types`)
    await owner.find('button', 'Sign in')
    await owner.isAccessible()
    await owner.write('E-mail', workspace.owner.email)
    await owner.write('Password', 'not this one')
    await owner.press('button', 'Sign in')
    await owner.sees('The address or the password is wrong')
    await owner.write('Password', workspace.owner.password)
    await owner.press('button', 'Sign in')
    await owner.sees('Clients book 30 minutes')
    await owner.isAccessible()
  })

  it('asks why not, is answered with the way out, and saves the case without names', async () => {
    await owner.open(`${app}/desk/event-types`)
    await owner.press('link', 'Talk')
    await owner.sees('openings in the next 7 days')
    await owner.press('button', 'up to the last moment')
    await owner.write('At least this long before its start', '2880')
    await owner.sees(/\d+ → \d+\s+openings in the next 7 days/)
    await owner.press('button', 'Ask')
    await owner.sees(/Why not .* 10:00\?\s+That is too soon/)
    await owner.isAccessible()
    const saved = await owner.saves(() => owner.press('button', 'Save this as a case'))
    expect(saved).not.toMatch(/Host 0|test-/)
    const answer = answerQuery(readQuery(saved))
    expect(answer.explanations?.[0]).toMatchObject({ offered: false, reasons: [{ code: 'leadTime' }] })
    await owner.press('button', 'Change how soon*')
    await owner.press('button', 'Discard all')
    await owner.sees('can be booked')
  })

  it('approves one request and declines another from Today, and each client is told', async () => {
    const wanted = await bookFirst('asked')
    const unwanted = await bookFirst('asked')
    expect((await stateOf(wanted.mine)).state).toBe('awaitingApproval')
    await owner.open(`${app}/desk`)
    await owner.sees(/Approve: Assessment[^]*Approve: Assessment/)
    await owner.press('button', 'Approve')
    await owner.sees(/^(?![^]*Approve: Assessment[^]*Approve: Assessment)/)
    await owner.press('button', 'Undo')
    await owner.sees(/Approve: Assessment[^]*Approve: Assessment/)
    await owner.press('button', 'Approve')
    await owner.press('button', 'Decline')
    await owner.sees(/^(?![^]*Approve: Assessment)/)
    // Both are sent at once when the screen is left.
    await owner.press('link', 'Event types')
    await expect.poll(async () => (await Promise.all([wanted, unwanted].map(({ mine }) => stateOf(mine)))).map(({ state }) => state).sort())
      .toEqual(['confirmed', 'declined'])
    const states = { [wanted.email]: await stateOf(wanted.mine), [unwanted.email]: await stateOf(unwanted.mine) }
    expect(Object.values(states).map(state => state.state).sort()).toEqual(['confirmed', 'declined'])
    for (const [email, { state }] of Object.entries(states)) {
      await expect.poll(() => subjects(email), { timeout: 15_000 }).toHaveLength(2)
      expect((await subjects(email))[0]).toMatch(state === 'confirmed' ? 'Assessment' : 'Not possible')
    }
  })

  it('connects a video account by consent; the room that waited for one is made, and it can be disconnected', async () => {
    const { mine } = await bookFirst('talk')
    await owner.open(`${app}/desk`)
    await owner.sees('No video account is connected for Host 0', 30)
    await owner.press('link', 'Connect an account')
    await owner.press('link', 'Connect Host 0')
    await owner.press('button', 'Decline')
    await owner.sees('Consent was refused')
    await owner.press('link', 'Connect Host 0')
    await owner.press('button', 'Allow')
    await owner.sees('Is this the right account?')
    await owner.press('button', 'It belongs to Host 0, connect it')
    await owner.sees('New rooms are made under this account')
    await owner.sees('Which event types take place by video?')
    await owner.press('button', 'Not now')
    await expect.poll(async () => (await stateOf(mine)).room?.state, { timeout: 20_000 }).toBe('ready')
    await owner.press('button', 'Disconnect Lantern Rooms')
    await owner.sees('Links that clients have stay')
    await owner.press('button', 'Disconnect')
    await owner.sees('sessions by video with Host 0 get no link')
    expect((await stateOf(mine)).room.joinUrl).toContain('/room/')
  })
})
