import { randomUUID } from 'node:crypto'
import { expect, inject, it } from 'vitest'
import { useBrowser } from './support/browser'
import { confirmationLink } from './support/http'

const app = inject('app')
const arrive = useBrowser()

it('the first run leads from nothing to a page that clients can book, in under two minutes', async () => {
  const startedAt = Date.now()
  const newcomer = await arrive('Asia/Kolkata')
  await newcomer.open(`${app}/desk/sign-in`)
  await newcomer.press('link', 'Sign up')
  await newcomer.press('button', 'Continue to four questions')
  await newcomer.sees('Enter the name of your business')
  await newcomer.write('What is your business called?', 'Mossbank Letters')
  await newcomer.write('Your name', 'Ines Cardoso')
  const email = `${randomUUID()}@mossbank.example`
  await newcomer.write('E-mail', email)
  await newcomer.write('Password, 10 characters or more', 'short')
  await newcomer.isAccessible()
  await newcomer.press('button', 'Continue to four questions')
  await newcomer.sees('At least 10 characters')
  await newcomer.write('Password, 10 characters or more', 'long enough now')
  await newcomer.press('button', 'Continue to four questions')
  await newcomer.sees('On which days can clients meet you?')
  await newcomer.sees('Clients cannot see your pages yet')
  await newcomer.press('checkbox', 'Saturday')
  await newcomer.write('To', 'late')
  await newcomer.isAccessible()
  await newcomer.press('button', 'Open my page')
  await newcomer.sees('Enter a time of day such as 17:00')
  await newcomer.write('To', '4 pm')
  await newcomer.press('button', 'Open my page')
  await newcomer.sees('Your page is ready')
  await newcomer.sees(/Left to set up[^]*Set your hours · done/)
  await newcomer.sees('What clients see on a phone')
  const page = await (await newcomer.page.waitForSelector('.link a'))?.evaluate(link => (link as HTMLAnchorElement).href) ?? ''
  await newcomer.isAccessible()

  const stranger = await arrive('Asia/Kolkata')
  await stranger.open(page)
  await stranger.sees('There is nothing at this address')
  await newcomer.open(page)
  await newcomer.sees('Meeting with Ines')
  await newcomer.open(await confirmationLink(email))
  await newcomer.sees('Your address is confirmed')
  await newcomer.isAccessible()
  await newcomer.press('button', 'Go to your desk')
  await newcomer.sees('Nothing waits for you')
  await newcomer.leave()
  expect(Date.now() - startedAt).toBeLessThan(120_000)

  const client = stranger
  await client.open(page)
  await client.sees('Meeting with Ines')
  expect((await client.page.$$('.timetable button')).length).toBeGreaterThan(20)
  await client.leave()
})
