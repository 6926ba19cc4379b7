import { randomBytes } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { formatDay, formatTime } from '../core/time/format'
import { instantToSeconds } from '../core/time/civil'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { NARROW, useBrowser } from './support/browser'
import { book, call, inbox, post, rawMail, request, setFault, signIn } from './support/http'
import { bookNext } from './support/sessions'
import { makeWorkspace, plan, type TestWorkspace } from './support/workspace'

const app = inject('app')
const arrive = useBrowser()
let context: Context
let workspace: TestWorkspace

const person = () => `${randomBytes(6).toString('hex')}@client.example`
const inDays = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10)

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, {
    hosts: 1, video: true, hours: 'Mo-Su 09:00-17:00',
    eventTypes: [
      { slug: 'talk', settings: { questions: [{ key: 'why', kind: 'paragraph', label: 'What happened?', required: true }] } },
      { slug: 'review', settings: { hours: { mode: 'narrow', plan: plan('Mo-Su 10:00-12:00', 'Europe/Lisbon') } } },
    ],
  })
})
afterAll(async () => {
  await closeContext(context)
})

describe('the whole way', () => {
  it('from changed hours to a meeting in the room, as a person would go it', async () => {
    const owner = await arrive('Europe/Lisbon')
    await owner.signIn(workspace.owner.email, workspace.owner.password)
    await owner.press('link', 'Event types')
    await owner.press('link', 'Talk')
    await owner.sees('openings in the next 7 days')
    await owner.press('radio', 'Only within these hours*')
    await owner.write('Hours of the week', 'Mo-Su 10:00-25:00')
    await owner.sees('not a time of day')
    await owner.write('Hours of the week', 'Mo-Su 10:00-12:00')
    await owner.sees('Monday to Sunday 10:00–12:00')
    await owner.sees(/\d+ → \d+\s+openings in the next 7 days/)
    await owner.isAccessible()
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Published. Clients see it from now on.')

    const client = await arrive('Asia/Kolkata')
    await client.open(`${app}/${workspace.slug}`)
    await client.isAccessible()
    await client.press('link', '30 minutes*')
    await client.sees('Or choose from the timetable')
    await client.sees('Times in Kolkata')
    await client.isAccessible()
    const labels = await client.page.$$eval('.timetable button', all => all.map(item => item.getAttribute('aria-label') ?? ''))
    expect(labels.length).toBeGreaterThan(20)
    for (const label of labels) expect(label).toMatch(/, (15:30|16:00|16:30|17:00)$/)
    await client.press('button', labels[5] ?? '')
    const email = person()
    await client.press('button', 'Book*')
    await client.sees('Enter your name')
    await client.write('Your name', 'Ana "Quill" <b>Ñ</b>')
    await client.write('E-mail', 'nobody')
    await client.write('What happened?', 'It <script>fell</script>')
    await client.press('button', 'Book*')
    await client.sees('Enter an address such as')
    expect(await (await client.find('textbox', 'Your name')).evaluate(element => (element as HTMLInputElement).value)).toBe(
      'Ana "Quill" <b>Ñ</b>',
    )
    await client.write('E-mail', email)
    await client.press('button', 'Book*')
    await client.sees('Booked')
    await client.sees('Open the room', 30)
    await client.sees('It <script>fell</script>')
    await client.isAccessible()

    await expect.poll(async () => (await inbox(email)).length, { timeout: 30_000 }).toBe(1)
    await client.open(`${inject('pigeonhole')}/inbox/${email}`)
    await client.press('link', 'Talk*')
    const mail = await rawMail((await inbox(email))[0]?.id ?? '')
    const link = /http:\/\/127\.0\.0\.1:\d+\/room\/[A-Za-z0-9_-]+/.exec(mail.replace(/=\r\n/g, ''))?.[0] ?? ''
    await client.open(link)
    await client.write('Your name', 'Ana')
    await client.press('button', 'Enter the waiting room')
    await client.sees('You are in the waiting room')

    const { rows } = await context.db.execute<{ id: string }>(
      `select s.id from sessions s join bookings b on b.session_id = s.id where b.client_email = '${email}'`,
    )
    await owner.open(`${app}/desk/sessions/${rows[0]?.id}`)
    await owner.sees('Ana "Quill" <b>Ñ</b>')
    await owner.sees('made room')
    await owner.isAccessible()
    const hostLink = await owner.page.$eval('.room-actions a', element => (element as HTMLAnchorElement).href)
    await owner.open(hostLink)
    await owner.write('Your name', 'Host')
    await owner.press('button', 'Open the room')
    await owner.press('button', 'Let Ana in')
    await client.sees('You are in the room.')
    await client.sees('Host, host')
    await owner.open(`${app}/desk`)
    await owner.sees('Ana "Quill" <b>Ñ</b>')
    await owner.isAccessible()
    await owner.open(`${app}/desk/connections`)
    await owner.sees('works, tried')
    await owner.isAccessible()
    await owner.leave()
    await client.leave()
  })

  it('on a narrow screen, by keyboard alone, and the loser of a start keeps what was typed', async () => {
    const path = `${workspace.slug}/talk`
    const client = await arrive('Europe/Lisbon', NARROW)
    await client.open(`${app}/${path}`)
    await client.isAccessible()
    const label = await client.page.$eval('.phone-timetable .minutes button', element => element.getAttribute('aria-label') ?? '')
    await (await client.page.$('.phone-timetable .minutes button'))?.focus()
    await client.page.keyboard.press('Enter')
    await client.find('textbox', 'Your name')
    await client.isAccessible()
    const { body } = await call(
      `${app}/api/public/${path}/openings?from=${new Date().toISOString().slice(0, 10)}&to=${new Date(Date.now() + 6e8).toISOString().slice(0, 10)}&timeZone=Europe/Lisbon`,
    )
    const start: string = body.openings.map((opening: { start: string }) => opening.start).find((item: string) => {
      const at = instantToSeconds(item)
      return `${formatDay(at, 'Europe/Lisbon', 'en-GB', at)}, ${formatTime(at, 'Europe/Lisbon', 'en-GB')}` === label
    }) ?? ''
    expect((await book(app, path, request(start, { answers: { why: 'First' } }))).status).toBe(201)
    const keys = client.page.keyboard
    await (await client.find('textbox', 'Your name')).focus()
    await keys.type('Late Client')
    await keys.press('Tab')
    await keys.type(person())
    await keys.press('Tab')
    await keys.type('Second')
    // Past the guests, who may be left out.
    await keys.press('Tab')
    await keys.press('Tab')
    await keys.press('Enter')
    await client.sees('Somebody has just taken this time')
    expect(await (await client.find('textbox', 'What happened?')).evaluate(element => (element as HTMLTextAreaElement).value)).toBe(
      'Second',
    )
    await (await client.page.$('.nearest button'))?.focus()
    await keys.press('Enter')
    await (await client.find('button', 'Book*')).focus()
    await keys.press('Enter')
    await client.sees('Booked')
    const width = await client.page.evaluate(() => document.documentElement.scrollWidth)
    expect(width).toBeLessThanOrEqual(NARROW.width)
    await client.press('button', 'Cancel this booking')
    await client.press('button', 'Cancel *')
    await client.sees('Choose another time')
    await client.leave()
  })

  it('to another time: by the client on the same timetable, and by a member outside of the hours after a warning', async () => {
    const booking = await bookNext(app, context, workspace, 'review')
    const client = await arrive('Asia/Kolkata')
    await client.open(booking.manage)
    await client.press('button', 'Move to another time')
    await client.sees('Choose the new time (Kolkata time)')
    await client.isAccessible()
    const labels = await client.page.$$eval('.timetable button', all => all.map(item => item.getAttribute('aria-label') ?? ''))
    await client.press('button', labels.at(-1) ?? '')
    await client.press('button', 'Move to *')
    await client.sees('Moved to another time')
    await client.leave()

    const owner = await arrive('Europe/Lisbon')
    await owner.signIn(workspace.owner.email, workspace.owner.password)
    await owner.open(`${app}/desk/sessions/${booking.sessionId}`)
    await owner.sees('moved it from')
    await owner.press('button', 'Move to another time')
    await owner.sees('Openings (Lisbon time)')
    const day = inDays(5)
    await owner.write('Date', `${day.slice(8)}/${day.slice(5, 7)}/${day.slice(0, 4)}`)
    await owner.write('Time', '20:00')
    await owner.press('button', 'Move and tell everybody')
    await owner.sees('Clients could not book this time:')
    await owner.isAccessible()
    await owner.press('button', 'Move it all the same')
    await owner.sees(/You moved it from .* 20:00/)
    await owner.leave()
  })

  it('to where the event type leads on, unless they do something with the booking first', async () => {
    const leading = await makeWorkspace(context, {
      hosts: 1, eventTypes: [{ slug: 'talk', settings: { afterwards: { text: '', address: 'https://shop.example.org/next' } } }],
    })
    const { manage } = await bookNext(app, context, leading)
    const client = await arrive('Europe/Lisbon')
    await client.open(`${manage}?booked`)
    await client.sees('You will be taken to shop.example.org')
    await client.press('button', 'Cancel this booking')
    await client.sees('Continue to shop.example.org')
    await client.open(manage)
    await client.sees('Continue to shop.example.org')
    await client.leave()
  })

  it('back to a booking’s open page, which shows what has become of its link, and the new one by itself', async () => {
    const booked = await bookNext(app, context, workspace, 'review')
    const client = await arrive('Europe/Lisbon')
    await client.open(booked.manage)
    await client.sees('Open the room')
    const headers = await signIn(app, workspace.owner)
    const room = `${app}/api/desk/sessions/${booked.sessionId}/room`
    const comeBack = () => client.page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')))
    expect((await fetch(room, { method: 'DELETE', headers })).status).toBe(200)
    await comeBack()
    await client.sees('There is no video link at present')
    await setFault('lantern', 'holding', 1)
    expect((await post(`${room}/renew`, {}, headers)).status).toBe(200)
    await comeBack()
    await client.sees('The video link is being made')
    await setFault('lantern', 'none')
    await client.sees('Open the room')
  })

  it('by arrow keys through the timetable', async () => {
    const whole = { ...plan('Mo-Su 10:00-12:00', 'Europe/Lisbon'), valid: { from: inDays(2), to: null } }
    const quiet = await makeWorkspace(context, {
      hosts: 1, eventTypes: [{ slug: 'review', settings: { hours: { mode: 'narrow', plan: whole } } }],
    })
    const client = await arrive('Europe/Lisbon')
    await client.open(`${app}/${quiet.slug}/review`)
    const focused = () => client.page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '')
    const labels = await client.page.$$eval('.timetable button', all => all.map(item => item.getAttribute('aria-label') ?? ''))
    const keys = client.page.keyboard
    await (await client.page.$('.timetable button[tabindex="0"]'))?.focus()
    expect(await focused()).toBe(labels[0])
    await keys.press('ArrowRight')
    expect(await focused()).toBe(labels[1])
    await keys.press('ArrowDown')
    const [day, time] = (await focused()).split(', ')
    expect(day).not.toBe(labels[1]?.split(', ')[0])
    expect(time?.split(':')[0]).toBe(labels[1]?.split(', ')[1]?.split(':')[0])
    await keys.press('ArrowUp')
    expect((await focused()).split(', ')[0]).toBe(labels[1]?.split(', ')[0])
    await keys.press('End')
    expect(await focused()).toBe(labels.at(-1))
    await keys.press('Home')
    expect(await focused()).toBe(labels[0])
    await client.leave()
  })

  it('agrees in page, mail and calendar entry across the last weekend of March', async () => {
    const path = `${workspace.slug}/review`
    const year = new Date().getUTCFullYear() + 1
    const lastSunday = 31 - new Date(Date.UTC(year, 2, 31)).getUTCDay()
    for (const day of [lastSunday - 1, lastSunday + 1]) {
      const date = `${year}-03-${String(day).padStart(2, '0')}`
      const { body } = await call(`${app}/api/public/${path}/openings?from=${date}&to=${date}&timeZone=Asia/Kolkata`)
      const start: string = body.openings[0].start
      const email = person()
      const made = await book(app, path, request(start, { client: { name: 'Nandini', email } }))
      expect(made.status).toBe(201)
      const [inKolkata, inLisbon] = [day < lastSunday ? '15:30' : '14:30', '10:00']
      const visitor = await arrive('Asia/Kolkata')
      await visitor.open(made.body.manage)
      await visitor.sees(new RegExp(`${day} March ${year}, ${inKolkata} to`))
      await visitor.sees(new RegExp(`${day} March ${year}, ${inLisbon} in Lisbon`))
      await visitor.leave()
      await expect.poll(async () => (await inbox(email)).length, { timeout: 30_000 }).toBe(1)
      const shown = (await call(`${inject('pigeonhole')}/message/${(await inbox(email))[0]?.id}`)).body
      expect(shown).toContain(`${day} March ${year}, ${inKolkata} to`)
      expect(shown).toContain(`${day} March ${year}, ${inLisbon} to`)
      expect(shown).toContain(`DTSTART:${start.replace(/[-:]/g, '')}`)
    }
  })
})
