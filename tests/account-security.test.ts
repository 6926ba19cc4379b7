import { generate } from 'otplib'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { AccountView, Device, PeopleView } from '../core/views/desk'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { call, inbox, mailText, post, sessionCookie, signIn } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** One's own account: a second factor, devices, and another address. */

const app = inject('app')
const account = `${app}/api/desk/account`
let context: Context
let workspace: TestWorkspace
let owner: { cookie: string }
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
  owner = await signIn(app, workspace.owner)
})
afterAll(() => closeContext(context))

const enter = (more: object = {}, who = workspace.owner) => post(`${app}/api/desk/sign-in`, { ...who, ...more })
const view = async (who = owner): Promise<AccountView> => (await call(account, { headers: who })).body

describe('a second factor', () => {
  it('counts once a first code is confirmed, takes each code once, and recovery codes once each', async () => {
    const { password } = workspace.owner
    expect((await post(`${account}/second-factor`, { password: 'wrong' }, owner)).body.errors[0].code).toBe('wrongOwnPassword')
    const { body: begun } = await post(`${account}/second-factor`, { password }, owner)
    expect(begun.uri).toMatch(/^otpauth:\/\/totp\/Temporia:.*secret=/)
    expect((await enter()).status, 'it does not count yet').toBe(200)
    expect((await post(`${account}/second-factor/confirm`, { code: '000000' }, owner)).status).toBe(422)
    const first = await generate({ secret: begun.secret })
    const { body: confirmed } = await post(`${account}/second-factor/confirm`, { code: first }, owner)
    expect(new Set(confirmed.recoveryCodes).size).toBe(10)
    expect(await view()).toMatchObject({ secondFactorSince: expect.any(Number), recoveryCodesLeft: 10 })

    expect((await enter()).body.errors).toMatchObject([{ path: 'code', code: 'codeNeeded' }])
    expect((await enter({ code: '123456' })).body.errors).toMatchObject([{ path: 'code', code: 'wrongCode' }])
    expect((await enter({ password: 'wrong', code: first })).body.errors).toMatchObject([{ path: 'password', code: 'wrongSignIn' }])
    expect((await enter({ code: first })).body.errors, 'it was used already').toMatchObject([{ code: 'wrongCode' }])
    const later = await generate({ secret: begun.secret, epoch: Math.floor(Date.now() / 1000) + 30 })
    const both = await Promise.all([enter({ code: later }), enter({ code: later })])
    expect(both.map(answer => answer.status).sort()).toEqual([200, 422])
    const [recovery = ''] = confirmed.recoveryCodes
    const twice = await Promise.all([enter({ code: recovery.toLowerCase() }), enter({ code: recovery })])
    expect(twice.map(answer => answer.status).sort()).toEqual([200, 422])
    expect(await view()).toMatchObject({ recoveryCodesLeft: 9 })
  })

  it('is not got round by a forgotten password', async () => {
    const { email } = workspace.owner
    await post(`${app}/api/desk/password/forgotten`, { email })
    await expect.poll(async () => (await inbox(email)).length, { timeout: 20_000 }).toBe(1)
    const token = /new-password\?token=([\w-]+)/.exec(await mailText((await inbox(email))[0]?.id ?? ''))?.[1]
    const response = await fetch(`${app}/api/desk/password/new`, {
      method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ token, password: 'marble under the snow' }),
    })
    expect([response.status, await response.json(), sessionCookie(response)]).toEqual([200, { member: null }, ''])
    workspace.owner.password = 'marble under the snow'
    expect((await enter()).body.errors).toMatchObject([{ code: 'codeNeeded' }])
    expect((await call(`${app}/api/desk/me`, { headers: owner })).status).toBe(401)
  })
})

describe('devices', () => {
  it('are listed, signed out one by one and all at once, and never those of another person', async () => {
    const own = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
    const [here, there, third] = [await signIn(app, own.owner), await signIn(app, own.owner), await signIn(app, own.owner)]
    const list = async (who = here) => (await call(`${account}/devices`, { headers: who })).body as Device[]
    expect((await list()).map(device => device.current).filter(Boolean)).toHaveLength(1)
    const others = (await list()).filter(device => !device.current)
    expect(others).toHaveLength(2)
    const strange = await signIn(app, (await makeWorkspace(context, { hosts: 0, eventTypes: [] })).owner)
    expect((await call(`${account}/devices/${others[0]?.id}`, { method: 'DELETE', headers: strange })).status).toBe(404)
    expect((await call(`${account}/devices/${others[0]?.id}`, { method: 'DELETE', headers: here })).status).toBe(200)
    expect(await list()).toHaveLength(2)
    expect((await post(`${account}/devices/end-others`, {}, here)).status).toBe(200)
    const me = async (who: { cookie: string }) => (await call(`${app}/api/desk/me`, { headers: who })).status
    expect([await me(here), await me(there), await me(third)]).toEqual([200, 401, 401])
    expect(await me(strange)).toBe(200)
  })
})

describe('another address', () => {
  it('holds once both mailboxes have agreed, in every place of the old one', async () => {
    const own = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
    const cookie = await signIn(app, own.owner)
    const email = `new-${own.slug}@moved.example`
    expect((await post(`${account}/address`, { email, password: 'wrong' }, cookie)).status).toBe(422)
    expect((await post(`${account}/address`, { email: email.toUpperCase(), password: own.owner.password }, cookie)).status).toBe(200)
    const tokenIn = async (address: string) => {
      await expect.poll(async () => (await inbox(address)).length, { timeout: 20_000 }).toBe(1)
      return /change-address\?token=([\w-]+)/.exec(await mailText((await inbox(address))[0]?.id ?? ''))?.[1] ?? ''
    }
    const [old, fresh] = [await tokenIn(own.owner.email), await tokenIn(email)]
    const agree = (token: string) => post(`${app}/api/desk/account-address/confirm`, { token })
    expect((await agree(fresh)).body).toEqual({ state: 'waiting', email: own.owner.email })
    expect((await agree(fresh)).body.state, 'one mailbox does not agree for both').toBe('waiting')
    expect(await view(cookie)).toMatchObject({ email: own.owner.email, newEmail: email, oldConfirms: false, newConfirms: true })
    expect((await agree(old)).body).toEqual({ state: 'changed', email })
    expect((await agree(old)).status).toBe(404)
    expect((await enter({}, own.owner)).status).toBe(422)
    expect((await enter({}, { ...own.owner, email })).body).toMatchObject({ email })
    const { people } = (await call(`${app}/api/desk/people`, { headers: cookie })).body as PeopleView
    expect(people.find(person => person.member?.own)).toMatchObject({ email })
  })

  it('is not that of somebody else, and can be dropped', async () => {
    const first = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
    const second = await makeWorkspace(context, { hosts: 0, eventTypes: [] })
    const cookie = await signIn(app, first.owner)
    await post(`${account}/address`, { email: second.owner.email, password: first.owner.password }, cookie)
    const tokenIn = async (address: string) => {
      await expect.poll(async () => (await inbox(address)).length, { timeout: 20_000 }).toBe(1)
      return /change-address\?token=([\w-]+)/.exec(await mailText((await inbox(address))[0]?.id ?? ''))?.[1] ?? ''
    }
    const tokens = [await tokenIn(first.owner.email), await tokenIn(second.owner.email)]
    const agree = (token: string) => post(`${app}/api/desk/account-address/confirm`, { token })
    expect((await agree(tokens[0] ?? '')).body.state).toBe('waiting')
    expect((await agree(tokens[1] ?? '')).status).toBe(409)
    expect((await call(`${account}/address`, { method: 'DELETE', headers: cookie })).status).toBe(200)
    expect((await agree(tokens[1] ?? '')).status).toBe(404)
  })
})
