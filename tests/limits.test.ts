import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { freePort } from '../scripts/run/ports'
import type { Started } from '../scripts/run/processes'
import { startApp } from '../scripts/run/services'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { type Answer, book, call, post, request, startsOf } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** An application of its own that allows strangers as little as one in the world does. */
let application: Started
let context: Context
let workspace: TestWorkspace
let url = ''

beforeAll(async () => {
  const appPort = await freePort(inject('serverPort') + 80, new Set())
  const folder = join(inject('folder'), 'limits')
  mkdirSync(folder, { recursive: true })
  url = `http://127.0.0.1:${appPort}`
  const environment = { ...inject('environment'), BASE_URL: url, PORT: String(appPort), BOOKINGS_PER_MINUTE: '3', SIGN_INS_PER_QUARTER_HOUR: '3', TOKEN_GUESSES_PER_MINUTE: '3' }
  context = await makeContext(environment)
  workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk' }] })
  await context.db.execute('delete from rate_limits')
  application = await startApp({ folder, appPort, lanternPort: 0, pigeonholePort: 0, smtpPort: 0 }, environment)
})
afterAll(async () => {
  await application.stop()
  await context.db.execute('delete from rate_limits')
  await closeContext(context)
})

async function sixTimes(ask: (index: number) => Promise<Answer>): Promise<Answer[]> {
  const answers: Answer[] = []
  for (let index = 0; index < 6; index++) answers.push(await ask(index))
  return answers
}
const refused = { status: 429, body: { title: 'Too many tries', detail: expect.stringMatching(/Please wait \d+ (seconds|minutes)/) } }

it('slows down whoever guesses passwords', async () => {
  const answers = await sixTimes(() => post(`${url}/api/desk/sign-in`, { email: workspace.owner.email, password: 'guess' }))
  expect(answers.map(one => one.status)).toEqual([422, 422, 422, 429, 429, 429])
  expect(answers[5]).toMatchObject(refused)
  // The right password does not get through either, or guessing would go on.
  expect(await post(`${url}/api/desk/sign-in`, workspace.owner)).toMatchObject(refused)
})

it('slows down whoever guesses clients’ addresses', async () => {
  const answers = await sixTimes(index => call(`${url}/api/public/bookings/${String(index).repeat(40)}`))
  expect(answers.map(one => one.status)).toEqual([404, 404, 404, 429, 429, 429])
})

it('slows down whoever books without end', async () => {
  const path = `${workspace.slug}/talk`
  const starts = await startsOf(url, path)
  const answers = await sixTimes(index => book(url, path, request(starts[index * 4] ?? '')))
  expect(answers.map(one => one.status)).toEqual([201, 201, 201, 429, 429, 429])
  expect(answers[5]).toMatchObject(refused)
})
