import { randomUUID } from 'node:crypto'
import { expect, inject, it } from 'vitest'
import { useBrowser } from './support/browser'

const app = inject('app')
const arrive = useBrowser()

it('the first run leads from nothing to a page that clients can book, in under two minutes', async () => {
  const begun = Date.now()
  const newcomer = await arrive('Asia/Kolkata')
  await newcomer.open(`${app}/desk/sign-in`)
  await newcomer.press('link', 'Sign up')
  await newcomer.press('button', 'Go on to three questions')
  await newcomer.sees('Write what your business is called')
  await newcomer.write('What is your business called?', 'Mossbank Letters')
  await newcomer.write('Your name', 'Ines Cardoso')
  await newcomer.write('E-mail', `${randomUUID()}@mossbank.example`)
  await newcomer.write('Password, 10 characters or more', 'short')
  await newcomer.isAccessible()
  await newcomer.press('button', 'Go on to three questions')
  await newcomer.sees('At least 10 characters')
  await newcomer.write('Password, 10 characters or more', 'long enough now')
  await newcomer.press('button', 'Go on to three questions')
  await newcomer.sees('On which days can clients talk with you?')
  await newcomer.press('checkbox', 'Saturday')
  await newcomer.write('to', 'late')
  await newcomer.isAccessible()
  await newcomer.press('button', 'Open my page')
  await newcomer.sees('Write a time of day such as 17:00')
  await newcomer.write('to', '4 pm')
  await newcomer.press('button', 'Open my page')
  await newcomer.sees('Clients can book you now')
  const page = await (await newcomer.page.waitForSelector('.link a'))?.evaluate(link => (link as HTMLAnchorElement).href) ?? ''
  await newcomer.isAccessible()
  await newcomer.leave()
  expect(Date.now() - begun).toBeLessThan(120_000)

  const client = await arrive('Asia/Kolkata')
  await client.open(page)
  await client.sees('Talk with Ines')
  expect((await client.page.$$('.timetable button')).length).toBeGreaterThan(20)
  await client.leave()
})
