import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { PeopleView, WorkspaceChoice } from '../core/views/desk'
import type { Context } from '../server/context'
import { members } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { call, inbox, mailText, post, sessionCookie, signIn } from './support/http'
import { attentionOf, bookNext } from './support/sessions'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

/** Who belongs to a workspace: invitations, roles, and one person in several workspaces. */

const app = inject('app')
const people = `${app}/api/desk/people`
const soon = { timeout: 20_000 }
const password = 'quire-and-lantern-seven'
let context: Context
let workspace: TestWorkspace
let owner: { cookie: string }
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
  owner = await signIn(app, workspace.owner)
})
afterAll(() => closeContext(context))

const address = () => `${randomUUID()}@invited.example`
const view = async (who = owner): Promise<PeopleView> => (await call(people, { headers: who })).body
const invite = (email: string, more: object = {}, who = owner) =>
  post(`${people}/invitations`, { name: 'Wren Halloran', email, role: 'host', hosts: true, ...more }, who)

/** The token in the newest mail to an address. */
async function tokenFor(email: string, mails = 1): Promise<string> {
  await expect.poll(async () => (await inbox(email)).length, soon).toBe(mails)
  const [newest] = await inbox(email)
  return /invitation\?token=([\w-]+)/.exec(await mailText(newest?.id ?? ''))?.[1] ?? ''
}

async function accept(token: string, more: object = {}, headers: Record<string, string> = {}) {
  const response = await fetch(`${app}/api/desk/invitation`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify({ token, name: 'Wren Halloran', password, timeZone: 'Asia/Kolkata', clock: '24', ...more }),
  })
  return { status: response.status, body: await response.json(), cookie: { cookie: sessionCookie(response) } }
}

const look = (token: string, headers: Record<string, string> = {}) => call(`${app}/api/desk/invitation?token=${token}`, { headers })

describe('an invitation', () => {
  it('arrives by mail, is accepted once, and makes a member who hosts', async () => {
    const email = address()
    expect((await invite(email)).status).toBe(200)
    const token = await tokenFor(email)
    expect(await look(token)).toMatchObject({ status: 200, body: { state: 'open', by: 'Test Owner', account: 'new', role: 'host' } })
    expect((await view()).invitations).toMatchObject([{ email, by: 'Test Owner' }])
    expect((await accept(token, { password: 'password12' })).status).toBe(422)
    const joined = await accept(token)
    expect(joined).toMatchObject({ status: 200, body: { email, role: 'host', confirmed: true, workspace: { slug: workspace.slug } } })
    const { people: all, invitations } = await view(joined.cookie)
    const own = all.find(person => person.email === email)
    expect([own, invitations]).toMatchObject([{ member: { own: true }, host: { id: expect.any(String) } }, []])
    const plans = (await call(`${app}/api/desk/hours`, { headers: joined.cookie })).body as { own: boolean, plan: { timeZone: string } }[]
    expect(plans.find(plan => plan.own)?.plan.timeZone).toBe('Asia/Kolkata')
    expect(await accept(token)).toMatchObject({ status: 409, body: { reason: 'invitationOver', values: { state: 'accepted' } } })
    expect((await signIn(app, { email, password })).cookie).not.toBe('')
    expect((await invite(email)).body.errors).toMatchObject([{ path: 'email', code: 'memberAlready' }])
  })

  it('accepted by two at once makes one member', async () => {
    const email = address()
    await invite(email)
    const token = await tokenFor(email)
    const both = await Promise.all([accept(token), accept(token)])
    expect(both.map(answer => answer.status).sort()).toEqual([200, both.find(answer => answer.status !== 200)?.status])
    expect([409, 422]).toContain(both.find(answer => answer.status !== 200)?.status)
    expect((await view()).people.filter(person => person.email === email)).toHaveLength(1)
  })

  it('leads nowhere once it is withdrawn or over, and waits anew when it is sent again', async () => {
    const email = address()
    const { body: { id } } = await invite(email)
    expect((await invite(email)).body.errors).toMatchObject([{ path: 'email', code: 'invitedAlready' }])
    const token = await tokenFor(email)
    await context.db.update(members).set({ invitedUntil: new Date(Date.now() - 1000) }).where(eq(members.id, id))
    expect((await look(token)).body.state).toBe('expired')
    expect(await accept(token)).toMatchObject({ status: 409, body: { values: { state: 'expired' } } })
    expect((await post(`${people}/invitations/${id}/send`, {}, owner)).status).toBe(200)
    expect((await look(token)).body.state).toBe('open')
    expect((await call(`${people}/invitations/${id}`, { method: 'DELETE', headers: owner })).status).toBe(200)
    expect(await accept(token)).toMatchObject({ status: 409, body: { values: { state: 'withdrawn' } } })
    expect((await post(`${people}/invitations/${id}/send`, {}, owner)).status).toBe(404)
    expect((await view()).invitations.map(invitation => invitation.email)).not.toContain(email)
    expect((await invite(email)).status).toBe(200)
    for (const wrong of [`${token.slice(0, -2)}xx`, 'x', '']) expect((await look(wrong)).status).toBe(404)
  })

  it('is only for its own address: whoever has an account needs its password or is signed in with it', async () => {
    const theirs = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
    await invite(theirs.owner.email, { role: 'coordinator', hosts: false })
    const token = await tokenFor(theirs.owner.email)
    expect((await look(token)).body.account).toBe('known')
    expect((await accept(token, { password: null })).body.errors).toMatchObject([{ code: 'passwordNeeded' }])
    expect((await accept(token)).body.errors).toMatchObject([{ code: 'wrongPassword' }])
    const stranger = await signIn(app, await addMember(context, workspace, 'host'))
    expect(await accept(token, {}, stranger)).toMatchObject({ status: 409, body: { reason: 'invitationForAnother' } })
    const signedIn = await signIn(app, theirs.owner)
    expect((await look(token, signedIn)).body.account).toBe('signedIn')
    const joined = await accept(token, { password: null }, signedIn)
    expect(joined).toMatchObject({ status: 200, body: { role: 'coordinator', workspace: { slug: workspace.slug } } })

    const workspaces: WorkspaceChoice[] = (await call(`${app}/api/desk/workspaces`, { headers: joined.cookie })).body
    expect(workspaces.map(({ slug, current }) => [slug, current]).sort()).toEqual([[theirs.slug, false], [workspace.slug, true]].sort())
    const entered = await fetch(`${app}/api/desk/workspaces/${theirs.id}/enter`, { method: 'POST', headers: joined.cookie })
    expect(await entered.json()).toMatchObject({ role: 'owner', workspace: { slug: theirs.slug } })
    expect((await call(`${app}/api/desk/me`, { headers: joined.cookie })).status, 'the session in the workspace before').toBe(401)
    const again = await signIn(app, theirs.owner)
    expect((await call(`${app}/api/desk/me`, { headers: again })).body.workspace.slug, 'signing in leads to the last one entered').toBe(theirs.slug)
    expect((await post(`${app}/api/desk/workspaces/${workspace.id}/enter`, {}, await signIn(app, (await makeWorkspace(context, { hosts: 0, eventTypes: [] })).owner))).status).toBe(404)
  })

  it('is not needed for another workspace of one’s own', async () => {
    const own = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
    const before = await signIn(app, own.owner)
    const response = await fetch(`${app}/api/desk/workspaces`, {
      method: 'POST', headers: { ...before, 'content-type': 'application/json' }, body: JSON.stringify({ name: 'Second Bindery' }),
    })
    expect(await response.json()).toMatchObject({ role: 'owner', confirmed: true, workspace: { name: 'Second Bindery' } })
    const there = { cookie: sessionCookie(response) }
    expect((await call(`${app}/api/desk/workspaces`, { headers: there })).body).toHaveLength(2)
    expect((await view(there)).people).toMatchObject([{ member: { own: true }, host: { id: expect.any(String) } }])
    const { workspace: { slug } } = (await call(`${app}/api/desk/me`, { headers: there })).body
    expect((await call(`${app}/api/public/${slug}`)).status, 'its page is seen at once').toBe(200)
  })

  it('is sent by nobody who has not confirmed their own address', async () => {
    const signedUp = await fetch(`${app}/api/desk/sign-up`, {
      method: 'POST', headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ workspace: 'Mossbank Letters', name: 'Ines Cardoso', email: address(), password, timeZone: 'UTC' }),
    })
    expect((await invite(address(), {}, { cookie: sessionCookie(signedUp) })).body.reason).toBe('confirmFirst')
  })
})

it('a workspace never loses its last owner, whoever steps down at once', async () => {
  const own = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
  const first = await signIn(app, own.owner)
  const second = await signIn(app, await addMember(context, own, 'coordinator'))
  const rows = (await view(first)).people.flatMap(person => person.member ?? [])
  const idOf = (role: string) => rows.find(member => member.role === role)?.id ?? ''
  const change = (id: string, role: string, who = first) => post(`${people}/members/${id}/role`, { role }, who)
  expect(await change(idOf('owner'), 'host')).toMatchObject({ status: 409, body: { reason: 'lastOwner' } })
  expect((await change(idOf('coordinator'), 'owner')).status).toBe(200)
  const both = await Promise.all([change(idOf('owner'), 'coordinator'), change(idOf('coordinator'), 'coordinator', second)])
  expect(both.map(answer => answer.status).filter(status => status === 200)).toHaveLength(1)
  expect((await view(first)).people.filter(person => person.member?.role === 'owner')).toHaveLength(1)
})

it('a host without sign-in can be given a chair at once', async () => {
  const { status, body } = await post(`${people}/hosts`, { name: 'Bryn Calloway', email: address(), timeZone: 'Australia/Adelaide' }, owner)
  expect(status).toBe(200)
  expect((await view()).people.find(person => person.host?.id === body.id)).toMatchObject({ name: 'Bryn Calloway', member: null })
  const plans = (await call(`${app}/api/desk/hours`, { headers: owner })).body as { host: string, isDefault: boolean }[]
  expect(plans.filter(plan => plan.host === 'Bryn Calloway')).toMatchObject([{ isDefault: true }])
})

describe('leaving', () => {
  it('ends the sign-in, keeps what is to come until somebody decides, and closes what nobody else hosts', async () => {
    const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]
    const own = await makeWorkspace(context, {
      hosts: 2, eventTypes: [{ slug: 'talk', settings: { places } }, { slug: 'alone', settings: { places }, hosts: [0] }],
    })
    const first = await signIn(app, own.owner)
    const leaver = await addMember(context, own, 'host', own.hosts[0]?.id)
    const signedIn = await signIn(app, leaver)
    const booked = await bookNext(app, context, own, 'alone')
    const row = (await view(first)).people.find(person => person.host?.id === own.hosts[0]?.id)
    expect(row).toMatchObject({ host: { coming: 1, video: 'none' }, member: { role: 'host' } })
    const ahead = await call(`${app}/api/desk/hosts/${own.hosts[0]?.id}/hand-over`, { headers: first })
    expect(ahead.body).toMatchObject({ closes: ['Talk'], seats: [{ sessionId: booked.sessionId, others: [own.hosts[1]?.id] }] })

    const remove = (who: { cookie: string }, id = row?.member?.id ?? '') => call(`${people}/members/${id}`, { method: 'DELETE', headers: who })
    expect(await remove(signedIn)).toMatchObject({ status: 200, body: { closed: ['Talk'] } })
    expect((await call(`${app}/api/desk/me`, { headers: signedIn })).status).toBe(401)
    expect((await post(`${app}/api/desk/sign-in`, leaver)).status).toBe(422)
    expect((await remove(first)).status).toBe(404)
    const owner = (await view(first)).people.find(person => person.member?.own)?.member?.id ?? ''
    expect(await remove(first, owner)).toMatchObject({ status: 409, body: { reason: 'lastOwner' } })

    const types = (await call(`${app}/api/desk/event-types`, { headers: first })).body as { id: string, slug: string, state: string }[]
    expect(types.map(({ slug, state }) => [slug, state])).toEqual([['talk', 'open'], ['alone', 'closed']])
    const { definition } = (await call(`${app}/api/desk/event-types/${types[0]?.id}`, { headers: first })).body
    expect(definition.chairs[0].hosts.map((host: { id: string }) => host.id)).toEqual([own.hosts[1]?.id])
    const waiting = await attentionOf(app, own)
    expect(waiting).toMatchObject([{ kind: 'hostLeft', sessionId: booked.sessionId }])
    const to = own.hosts[1]?.id ?? ''
    const handed = await post(`${app}/api/desk/hosts/${own.hosts[0]?.id}/hand-over`, { seats: [{ sessionId: booked.sessionId, to }] }, first)
    expect(handed.body.results).toMatchObject([{ outcome: 'handedOver' }])
    expect(await attentionOf(app, own)).toEqual([])
    // The address is free again.
    expect((await post(`${people}/invitations`, { name: 'Back Again', email: leaver.email, role: 'host', hosts: true }, first)).status).toBe(200)
  })
})
