import { expect, inject, it } from 'vitest'
import { workspace as demo } from '../demo/people'
import { NARROW, useBrowser, type Visitor } from './support/browser'
import { book, call, request, startsOf } from './support/http'

/** Clients' pages on a phone, with the longest times and the longest texts there are. */

const app = inject('app')
const arrive = useBrowser()

const widthOf = (visitor: Visitor) => visitor.page.evaluate(() => document.documentElement.scrollWidth)

it.each(['en-GB', 'en-US'])('no page of a client scrolls sideways on a phone, whose clock is that of %s', async (language) => {
  const client = await arrive('America/St_Johns', NARROW)
  await client.page.setExtraHTTPHeaders({ 'accept-language': language })
  await client.page.evaluateOnNewDocument((language: string) => {
    Object.defineProperty(navigator, 'language', { get: () => language })
  }, language)
  const { body } = await call(`${app}/api/public/${demo.slug}`)
  const slugs: string[] = body.eventTypes.map((eventType: { slug: string }) => eventType.slug)
  expect(slugs.length).toBeGreaterThan(3)
  for (const path of [demo.slug, `${demo.slug}/nothing-here`, ...slugs.map(slug => `${demo.slug}/${slug}`)]) {
    await client.open(`${app}/${path}`)
    expect(await widthOf(client), path).toBe(NARROW.width)
  }
  const minutes = await client.page.$('.phone-timetable .minutes button')
  expect(await minutes?.evaluate(element => element.textContent)).toMatch(language === 'en-US' ? /^\d+:\d\d [ap]m$/ : /^\d+:\d\d$/)
  await minutes?.click()
  await client.find('textbox', 'Your name')
  expect(await widthOf(client), 'the form').toBe(NARROW.width)
  await client.isAccessible()
  await client.page.evaluate(() => window.scrollTo(0, 0))
  await client.press('button', 'St John’s')
  await client.find('combobox', 'City, country or offset')
  await client.page.waitForFunction(() => document.activeElement instanceof HTMLInputElement)
  await client.page.keyboard.type('india')
  expect(await widthOf(client), 'the search for a zone').toBe(NARROW.width)
  await client.press('option', 'Kolkata*')
  await client.sees('Times in Kolkata')

  const [start = ''] = await startsOf(app, `${demo.slug}/damage-triage`)
  const answers = { material: 'paper', happened: 'It'.repeat(200) }
  const { status, body: booked } = await book(app, `${demo.slug}/damage-triage`, request(start, { answers }))
  expect(status, JSON.stringify(booked)).toBe(201)
  await client.open(booked.manage)
  expect(await widthOf(client), 'the confirmation').toBe(NARROW.width)
  await client.press('button', 'Move to another time')
  await client.sees('Choose the new time (Kolkata time)')
  expect(await widthOf(client), 'moving').toBe(NARROW.width)
  await client.isAccessible()
  await client.press('button', 'Keep the time')
  await client.press('button', 'Cancel this booking')
  await expect.poll(() => client.page.evaluate(() => document.activeElement?.id), { message: 'the cursor is in what must be confirmed' })
    .toBe('reason')
  expect(await widthOf(client), 'cancelling').toBe(NARROW.width)
  await client.press('button', 'Cancel *')
  await client.sees('Cancelled')
  await client.leave()
})
