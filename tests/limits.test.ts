import { beforeAll, expect, it } from 'vitest'
import { useApplication } from './support/application'
import { type Answer, book, call, post, request, startsOf } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** An application of its own that allows strangers as little as one in the world does. */
const own = useApplication('limits', { BOOKINGS_PER_MINUTE: '3', SIGN_INS_PER_QUARTER_HOUR: '3', TOKEN_GUESSES_PER_MINUTE: '3' })
let workspace: TestWorkspace
beforeAll(async () => (workspace = await makeWorkspace(own.context, { hosts: 1, eventTypes: [{ slug: 'talk' }] })))

async function sixTimes(ask: (index: number) => Promise<Answer>): Promise<Answer[]> {
  const answers: Answer[] = []
  for (let index = 0; index < 6; index++) answers.push(await ask(index))
  return answers
}
const refused = { status: 429, body: { title: 'Too many tries', detail: expect.stringMatching(/Please wait \d+ (seconds|minutes)/) } }

it('slows down whoever guesses passwords', async () => {
  const answers = await sixTimes(() => post(`${own.url}/api/desk/sign-in`, { email: workspace.owner.email, password: 'guess' }))
  expect(answers.map(answer => answer.status)).toEqual([422, 422, 422, 429, 429, 429])
  expect(answers[5]).toMatchObject(refused)
  // The right password does not get through either, or guessing would go on.
  expect(await post(`${own.url}/api/desk/sign-in`, workspace.owner)).toMatchObject(refused)
})

it('slows down whoever guesses clients’ addresses', async () => {
  const answers = await sixTimes(index => call(`${own.url}/api/public/bookings/${String(index).repeat(40)}`))
  expect(answers.map(answer => answer.status)).toEqual([404, 404, 404, 429, 429, 429])
})

it('slows down whoever books without end', async () => {
  const path = `${workspace.slug}/talk`
  const starts = await startsOf(own.url, path)
  const answers = await sixTimes(index => book(own.url, path, request(starts[index * 4] ?? '')))
  expect(answers.map(answer => answer.status)).toEqual([201, 201, 201, 429, 429, 429])
  expect(answers[5]).toMatchObject(refused)
})
