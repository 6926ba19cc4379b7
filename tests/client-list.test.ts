import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { listRequests } from '../server/database/schema'
import { listToken } from '../server/secrets'
import { closeContext, makeContext } from '../server/start'
import { call, inbox, mailText, post } from './support/http'
import { bookNext, tokenOf } from './support/sessions'
import { makeWorkspace } from './support/workspace'

/** All bookings of a client, behind a link that is mailed to them. */

const app = inject('app')
let context: Context
beforeAll(async () => (context = await makeContext(inject('environment'))))
afterAll(() => closeContext(context))

const soon = { timeout: 30_000, interval: 100 }
const ask = (workspace: string, email: string) => post(`${app}/api/public/bookings/lists`, { workspace, email })
async function linkTo(address: string): Promise<string> {
  const [mail] = (await inbox(address)).filter(({ subject }) => subject.startsWith('Your bookings with'))
  return /\/bookings\/all\/([\w-]+)/.exec(mail ? await mailText(mail.id) : '')?.[1] ?? ''
}
const list = (token: string) => call(`${app}/api/public/bookings/lists/${token}`)

it('shows whoever reads that address all their bookings, of this workspace alone, as often as they like', async () => {
  const [one, other] = [await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk' }] }), await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk' }] })]
  const email = `ana@${one.slug}.example`
  const book = (workspace: typeof one, who: string) => bookNext(app, context, workspace, 'talk', { client: { name: 'Ana', email: who } })
  const [first, second] = [await book(one, email), await book(one, email.toUpperCase().replace('ANA', 'Ana'))]
  await book(one, `other-${email}`)
  await book(other, email)
  await post(`${app}/api/public/bookings/${tokenOf(first)}/cancel`, {})
  expect(await ask(one.slug, email)).toMatchObject({ status: 202, body: { asked: true } })
  await expect.poll(() => linkTo(email), soon).not.toBe('')
  const token = await linkTo(email)
  for (const _ of [1, 2]) {
    const { status, body } = await list(token)
    expect(status).toBe(200)
    expect(body.hasEnded).toBe(false)
    expect(body.bookings.map(({ page, state }: { page: string, state: string }) => [page, state]).sort())
      .toEqual([[`/bookings/${tokenOf(first)}`, 'cancelled'], [`/bookings/${tokenOf(second)}`, 'confirmed']].sort())
  }
  expect((await fetch(`${app}/bookings/all/${token}`)).status).toBe(200)

  // A day later it leads to nothing but a new one.
  const old = listToken(context.settings.secret, { workspaceId: one.id, id: second.bookingId }, Math.floor(Date.now() / 1000))
  expect((await list(old)).body).toMatchObject({ hasEnded: true, bookings: [] })
  expect((await list(token.replace(/.$/, last => (last === 'A' ? 'B' : 'A')))).status).toBe(404)
})

it('does not tell whether there are any', async () => {
  const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk' }] })
  const stranger = `nobody@${workspace.slug}.example`
  expect(await ask(workspace.slug, stranger)).toMatchObject({ status: 202, body: { asked: true } })
  await expect.poll(() => context.db.$count(listRequests, eq(listRequests.workspaceId, workspace.id)), soon).toBe(0)
  expect(await inbox(stranger)).toEqual([])
  expect((await ask('no-such-workspace', stranger)).status).toBe(404)
  expect((await ask(workspace.slug, 'not an address')).status).toBe(400)
})
