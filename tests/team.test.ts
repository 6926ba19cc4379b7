import { randomUUID } from 'node:crypto'
import { expect, inject, it } from 'vitest'
import { useBrowser } from './support/browser'
import { book, confirmationLink, inbox, mailText, request, startsOf } from './support/http'

const app = inject('app')
const arrive = useBrowser()
const password = 'quire and lantern and moss'

/** The link of the invitation in somebody's mailbox. */
async function invitationLink(email: string): Promise<string> {
  await expect.poll(async () => (await inbox(email)).length, { timeout: 20_000 }).toBe(1)
  const [mail] = await inbox(email)
  return /https?:\S+invitation\?token=\S+/.exec(await mailText(mail?.id ?? ''))?.[0] ?? ''
}

it('a new workspace invites two people, and the three share the work: six bookings, two each', async () => {
  const id = randomUUID().slice(0, 8)
  const owner = await arrive('Europe/Lisbon')
  await owner.open(`${app}/desk/sign-up`)
  const email = `nell@${id}.example`
  await owner.write('What is your business called?', `Saltmarsh ${id}`)
  await owner.write('Your name', 'Nell Harrow')
  await owner.write('E-mail', email)
  await owner.write('Password, 10 characters or more', password)
  await owner.press('button', 'Continue to four questions')
  await owner.press('button', 'Open my page')
  const page = await (await owner.page.waitForSelector('.link a'))?.evaluate(link => (link as HTMLAnchorElement).href) ?? ''
  await owner.open(await confirmationLink(email))
  await owner.sees('Your address is confirmed')
  await owner.press('button', 'Go to your desk')

  await owner.press('link', 'People')
  const invited = ['Ada Finch', 'Bo Larsen'].map(name => ({ name, email: `${name.split(' ')[0]?.toLowerCase()}@${id}.example` }))
  for (const person of invited) {
    await owner.press('button', 'Invite somebody')
    await owner.write('Name', person.name)
    await owner.write('E-mail', person.email)
    await owner.isAccessible('.ask')
    await owner.press('button', 'Send the invitation')
    await owner.sees(`An invitation is on its way to ${person.email}`)
  }
  await owner.sees(/Invited, not yet accepted[^]*Ada Finch[^]*Bo Larsen/)
  await owner.isAccessible()

  for (const person of invited) {
    const colleague = await arrive('Europe/Lisbon')
    await colleague.open(await invitationLink(person.email))
    await colleague.sees(`Nell Harrow invites you to Saltmarsh ${id}.`)
    await colleague.write('Choose a password, 10 characters or more', 'short')
    await colleague.press('button', `Join Saltmarsh ${id}`)
    await colleague.sees('easy to guess')
    await colleague.isAccessible()
    await colleague.write('Choose a password, 10 characters or more', password)
    await colleague.press('button', `Join Saltmarsh ${id}`)
    await colleague.sees('Nothing waits for you')
    await colleague.leave()
  }

  await owner.open(`${app}/desk/event-types`)
  await owner.press('link', 'Meeting with Nell')
  await owner.press('button', 'Nell')
  for (const { name } of invited) await owner.choose('Add a host*', `${name}*`)
  await owner.sees('with one of three hosts, by fair share')
  await owner.press('button', 'Publish…')
  await owner.press('button', 'Publish')
  await owner.sees('Published. Clients see it from now on.')
  await owner.leave()

  const path = new URL(page).pathname.slice(1)
  const starts = await startsOf(app, path, 1, 10)
  const hosts: string[] = []
  for (const start of starts.filter((_, index) => index % 3 === 0).slice(0, 6)) {
    const phone = { client: { name: 'Ines Cardoso', email: `${randomUUID()}@client.example`, phone: '+351210000101' } }
    const { status, body } = await book(app, path, request(start, phone))
    expect(status, JSON.stringify(body)).toBe(201)
    hosts.push(...body.booking.hosts)
  }
  const shares = ['Nell Harrow', 'Ada Finch', 'Bo Larsen'].map(name => hosts.filter(host => host === name).length)
  expect(shares, hosts.join()).toEqual([2, 2, 2])
})
