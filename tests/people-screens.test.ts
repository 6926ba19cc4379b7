import { generate } from 'otplib'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { useBrowser } from './support/browser'
import { bookNext } from './support/sessions'
import { makeWorkspace } from './support/workspace'

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
