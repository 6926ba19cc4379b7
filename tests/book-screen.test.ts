import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { DAY, formatDate } from '../core/time/civil'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { NARROW, useBrowser, type Visitor } from './support/browser'
import { book, inbox, post, request, startsOf } from './support/http'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Booking a client in at the desk, and booking once more by a link of one's own. */

const app = inject('app')
const arrive = useBrowser()
const question = { key: 'material', kind: 'text' as const, label: 'Of what is it', required: true }
const client = { name: 'Wren Holloway', email: 'wren@holloway.example' }
let context: Context
let workspace: TestWorkspace
let member: Visitor
let manage = ''

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const places = [{ key: 'studio', kind: 'address' as const, label: 'studio', detail: 'Pátio do Prelo 7' }]
  workspace = await makeWorkspace(context, { hosts: 2, zone: 'UTC', hours: 'Mo-Su 09:00-17:00', eventTypes: [{ slug: 'talk', settings: { places, questions: [question] } }] })
  const [start = ''] = await startsOf(app, `${workspace.slug}/talk`)
  const booked = await book(app, `${workspace.slug}/talk`, request(start, { client, answers: { material: 'vellum' } }))
  manage = booked.body.manage
  member = await arrive('UTC')
  await member.signIn(workspace.owner.email, workspace.owner.password)
})
afterAll(async () => {
  await member.leave()
  await closeContext(context)
})

it('finds an earlier client by name, and books an odd time only after saying why clients could not', async () => {
  const before = (await inbox(client.email)).length
  await member.press('link', 'Book a client in')
  await member.sees('Choose what to book')
  await member.choose('Event type', 'Talk')
  await member.sees('Openings (UTC time)')
  await member.search('Find an earlier client', 'holl', 'Wren Holloway wren@holloway.example')
  const [year, month, day] = formatDate(Math.floor(Date.now() / 1000 / DAY) + 5).split('-')
  await member.write('Date', `${day}/${month}/${year}`)
  await member.write('Time', '21:07')
  await member.press('button', 'Book *')
  await member.sees('Clients could not book this time:')
  await member.sees('Nothing starts at this minute')
  await member.isAccessible()
  await member.press('button', 'Book *')
  await member.sees('Wren Holloway is booked.')
  await member.sees(/(You|Test Owner) booked Talk for Wren Holloway/)
  await expect.poll(async () => (await inbox(client.email)).length, { timeout: 20_000 }).toBe(before + 1)
})

it('books a session without an event type, and says what is missing at its field', async () => {
  await member.open(`${app}/desk/book`)
  await member.choose('Event type', 'Without an event type…')
  await member.choose('Where', 'At an address')
  await member.press('combobox', 'Who hosts it, all of them together')
  await member.press('option', 'Host 1')
  await member.page.keyboard.press('Escape')
  await member.sees('Openings (UTC time)')
  await member.page.waitForSelector('.timetable button')
  await member.page.click('.timetable button')
  await member.press('button', 'Book *')
  await member.sees('Enter a title')
  await member.sees('Enter an e-mail address')
  await member.write('Title', 'Look at the flooded ledgers')
  await member.write('Name', 'Quillon Ashby')
  await member.write('E-mail', 'quillon@ashby.example')
  await member.press('button', 'Book *')
  await member.sees('Enter the address')
  await member.write('Address', 'Quay Street 3')
  await member.press('button', 'Book *')
  await member.sees('Quillon Ashby is booked.')
  await member.sees('Quay Street 3')
})

it('lets a client book again with what they gave before, on a phone', async () => {
  const visitor = await arrive('Asia/Kolkata', NARROW)
  expect((await post(`${app}/api/public/bookings/${new URL(manage).pathname.split('/').at(-1)}/cancel`, {})).status).toBe(200)
  await visitor.open(manage)
  await visitor.press('link', 'Choose another time')
  await visitor.page.waitForSelector('.suggestions button')
  await visitor.page.click('.suggestions button')
  await visitor.sees('Filled in from your earlier booking')
  const values = await visitor.page.$$eval('.booking-form input', fields => fields.map(field => field.value))
  expect(values).toEqual(expect.arrayContaining([client.name, client.email, 'vellum']))
  await visitor.isAccessible()
  await visitor.press('button', 'Book *')
  await visitor.sees('Booked')
  await visitor.leave()
})
