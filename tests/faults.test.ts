import { afterEach, beforeAll, describe, expect, inject, it } from 'vitest'
import { useApplication } from './support/application'
import { inbox, rawMail, setFault } from './support/http'
import * as seen from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** An application of its own, so that it can be killed. */
const own = useApplication('faults', { ROOM_WAIT_SECONDS: '5' })
let workspace: TestWorkspace
beforeAll(async () => (workspace = await makeWorkspace(own.context, { hosts: 1, video: true, eventTypes: [{ slug: 'talk' }] })))
afterEach(async () => {
  await setFault('lantern', 'none')
  await setFault('pigeonhole', 'none')
})

const bookNext = () => seen.bookNext(own.url, own.context, workspace)
const trailOf = (sessionId: string) => seen.trailOf(own.context, workspace, sessionId)
const roomOf = (sessionId: string) => seen.roomOf(own.context, sessionId)
const roomState = async (sessionId: string) => (await roomOf(sessionId))?.state
const { subjects } = seen

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
    const room = await roomOf(sessionId)
    const page = await (await fetch(inject('lantern'))).text()
    expect(page.split(room?.number ?? '-').length - 1).toBe(1)
  })
})

describe('the mail server', () => {
  it('refuses for a moment: the mail comes once it takes it', async () => {
    await setFault('pigeonhole', 'failing')
    const { email, sessionId } = await bookNext()
    await expect
      .poll(() => trailOf(sessionId), { timeout: 30_000 })
      .toContainEqual(expect.stringMatching(/^Could not mail the confirmation to .*trying again at/))
    expect(await inbox(email)).toHaveLength(0)
    await setFault('pigeonhole', 'none')
    await expect.poll(() => subjects(email), { timeout: 30_000 }).toEqual(['Talk'])
  })
})

describe('the application', () => {
  it('is killed between booking and mail: after a restart room and mails come, each once', async () => {
    await setFault('lantern', 'holding', 1)
    const { bookingId, sessionId, email } = await bookNext()
    await expect.poll(seen.heldAtService, { timeout: 10_000 }).toBe(1)
    await own.process.stop('SIGKILL')
    expect(await inbox(email)).toHaveLength(0)
    await own.start()
    await setFault('lantern', 'none')
    const [host] = workspace.hosts
    const hostMails = async () => (await inbox(host?.email ?? '')).filter(mail => mail.messageId.includes(bookingId))
    await expect.poll(() => roomState(sessionId), { timeout: 30_000 }).toBe('ready')
    await expect.poll(async () => (await inbox(email)).length, { timeout: 30_000 }).toBeGreaterThan(0)
    await expect.poll(async () => (await hostMails()).length, { timeout: 30_000 }).toBeGreaterThan(0)
    // Long enough for anything that was left behind to come a second time.
    await new Promise(resolve => setTimeout(resolve, 7000))
    const ids = [...await inbox(email), ...await hostMails()].map(mail => mail.messageId)
    expect(new Set(ids).size).toBe(ids.length)
    const room = await roomOf(sessionId)
    expect((await (await fetch(inject('lantern'))).text()).split(room?.number ?? '-').length - 1).toBe(1)
  })
})
