import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { generate } from 'otplib'
import type { ElementHandle } from 'puppeteer-core'
import sharp from 'sharp'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { NARROW, useBrowser } from './support/browser'
import { bookNext } from './support/sessions'
import { addMember, makeWorkspace } from './support/workspace'

/** People, groups, shares and one's own account, in the browser. */

const app = inject('app')
const arrive = useBrowser()
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const places = [{ key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }]

it('an owner sees the shares, hands a session over by hand, reads why it came to whom, and makes a group', async () => {
  const workspace = await makeWorkspace(context, { hosts: 3, eventTypes: [{ slug: 'talk', settings: { places } }] })
  const booked = []
  // At times of their own, so that the others are free.
  for (let n = 0; n < 3; n++) booked.push(await bookNext(app, context, workspace, 'talk', {}, 2 + n))
  const owner = await arrive('Europe/Lisbon')
  await owner.signIn(workspace.owner.email, workspace.owner.password)
  await owner.open(`${app}/desk/people`)
  await owner.sees('Share of 3 sessions in 90 days')
  await owner.isAccessible()

  await owner.open(`${app}/desk/sessions/${booked[0]?.sessionId}`)
  await owner.press('button', 'Why this host?')
  await owner.sees('Free at that time: Host 0, Host 1 and Host 2.')
  await owner.press('button', 'Hand over from *')
  await owner.sees('Who takes it')
  await owner.isAccessible()
  await owner.press('button', 'Hand over 1 session')
  await owner.sees('Handed over to Host')
  await owner.sees('You handed it over from')

  await owner.open(`${app}/desk/sessions`)
  await owner.sees('Nandini Bhowmik')
  await owner.isAccessible()

  await owner.open(`${app}/desk/rotation/new`)
  await owner.write('Name', 'Morning desk')
  await owner.choose('Add a host', 'Host 0')
  await owner.choose('Add a host', 'Host 1')
  await owner.press('button', 'Save')
  await owner.sees('group of 2, not used by any event type yet')
  await owner.isAccessible()

  await owner.open(`${app}/desk/people`)
  await owner.press('link', 'Details and what if of Talk: Host')
  await owner.sees('Would have had')
  await owner.isAccessible()
  await owner.leave()
})

it('a member turns a second factor on and signs in with a code', async () => {
  const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
  const { email, password } = workspace.owner
  const member = await arrive('Europe/Lisbon')
  await member.signIn(email, password)
  await member.open(`${app}/desk/workspace`)
  await member.sees('A cancelled session counts as its host’s turn')
  await member.isAccessible()
  await member.open(`${app}/desk/account`)
  await member.press('button', 'Turn it on')
  await member.write('Your password', password)
  await member.press('button', 'Next')
  await member.sees('Scan this with your authenticator app')
  const secret = await member.page.$eval('section code', element => (element.textContent ?? '').replaceAll(' ', ''))
  await member.write('Code from your authenticator', await generate({ secret }))
  await member.press('button', 'Confirm')
  await member.sees('Keep these recovery codes')
  await member.isAccessible()
  const recovery = await member.page.$eval('.codes li', element => element.textContent ?? '')
  await member.press('button', 'I have kept them')
  await member.sees('10 recovery codes are left')

  const elsewhere = await arrive('Europe/Lisbon')
  await elsewhere.open(`${app}/desk/sign-in`)
  await elsewhere.write('E-mail', email)
  await elsewhere.write('Password', password)
  await elsewhere.press('button', 'Sign in')
  await elsewhere.write('Code from your authenticator', recovery)
  await elsewhere.press('button', 'Sign in')
  await elsewhere.page.waitForFunction(() => location.pathname === '/desk')
  await elsewhere.leave()
  await member.leave()
  expect(recovery).toMatch(/^[A-Z0-9]{5}-[A-Z0-9]{5}$/)
})

it('a host edits their own page, goes away for a day, and clients find them by it', async () => {
  const workspace = await makeWorkspace(context, { hosts: 2, eventTypes: [{ slug: 'talk', settings: { places }, hosts: [0] }] })
  const host = await arrive('Europe/Lisbon')
  const { email, password } = await addMember(context, workspace, 'host', workspace.hosts[0]?.id)
  await host.signIn(email, password)
  await host.open(`${app}/desk/people`)
  await host.press('link', 'Test host')
  await host.sees('Sessions to come')
  await host.isAccessible()
  await host.write('About', 'Binds and mends.')
  await host.press('checkbox', 'Clients can book with this host on a page of their own')
  await host.press('button', 'Add days away')
  await host.write('Note for the team', 'Fair')
  await host.press('button', 'Save')
  await host.sees('Saved.')
  await host.sees('It offers Talk')
  await host.isAccessible()
  const picture = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#a33' } }).png().toBuffer()
  const file = join(mkdtempSync(join(tmpdir(), 'picture-')), 'me.png')
  writeFileSync(file, picture)
  const field = await host.page.$('input[type=file]')
  await (field as ElementHandle<HTMLInputElement>).uploadFile(file)
  await host.sees('The picture is saved.')
  await host.page.waitForFunction(() => document.querySelector<HTMLImageElement>('.picture-field img')?.naturalWidth === 384)

  // What is other people's cannot be changed.
  await host.open(`${app}/desk/people/${workspace.hosts[1]?.id}`)
  await host.sees('Host 1')
  expect(await host.page.$$('form [type=submit], form button')).toEqual([])

  const client = await arrive('Asia/Kolkata', NARROW)
  await client.open(`${app}/${workspace.slug}/with/host-0`)
  await client.sees('Binds and mends.')
  await client.isAccessible()
  await client.page.click('.event-types a')
  await client.sees('Soonest')
  await client.leave()
  await host.leave()
})
