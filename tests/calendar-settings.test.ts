import { createServer } from 'node:http'
import { sql } from 'drizzle-orm'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import { DAY, formatInstant } from '../core/time/civil'
import type { AccountView } from '../core/views/calendars'
import { freePort } from '../scripts/run/ports'
import { useApplication } from './support/application'
import { calendarHosts } from './support/calendar-hosts'
import { copperplateCalendar, entry } from './support/calendars'
import { book, call, post, request, signIn } from './support/http'

const own = useApplication('calendar_settings')
const copperplate = inject('copperplate')
const { day, at, newHost, connect, look, changeCalendar, openHours, allBut } = calendarHosts(own)
let feedPort: number
beforeAll(async () => {
  feedPort = await freePort(inject('serverPort') + 92, new Set())
  await own.process.stop()
  await own.start({ ALLOWED_HOSTS: `${own.environment['ALLOWED_HOSTS']},127.0.0.1:${feedPort}` })
})

describe('feeds and files', () => {
  it('a feed is read again where its server says nothing of whether it has changed', async () => {
    const host = await newHost()
    const feed = { text: entry('a', at(9), at(10)), asked: 0 }
    const server = createServer((_, response) => {
      feed.asked++
      response.end(feed.text)
    })
    await new Promise<void>(resolve => server.listen(feedPort, '127.0.0.1', resolve))
    try {
      const address = `http://127.0.0.1:${feedPort}/rota.ics`
      const { status, body: account } = await post(`${own.url}/api/desk/calendar-accounts`, { kind: 'feed', hostId: host.hostId, address }, host.headers)
      expect([status, account.kind, account.state]).toEqual([201, 'feed', 'connected'])
      expect(await openHours(host)).toEqual(allBut(9))
      feed.text = entry('a', at(11), at(12))
      await look(host, account)
      expect(await openHours(host)).toEqual(allBut(11))
      feed.text = '<html>Nothing here</html>'
      expect(await look(host, account)).toMatchObject({ state: 'failing', fault: expect.any(String) as string })
      expect(await openHours(host)).toEqual(allBut(11))
      expect(feed.asked).toBeGreaterThan(2)
    } finally {
      server.closeAllConnections()
      server.close()
    }
    const none = { kind: 'feed', hostId: host.hostId, address: `${own.url.replace('http', 'webcal')}/feeds/none.ics` }
    expect((await post(`${own.url}/api/desk/calendar-accounts`, none, host.headers)).status).toBe(422)
  })

  it('files are read, replaced and taken away', async () => {
    const host = await newHost()
    const upload = async (text: string) => {
      const form = new FormData()
      form.set('hostId', host.hostId)
      form.set('name', 'Rota')
      form.set('file', new Blob([text]), 'rota.ics')
      const answer = await fetch(`${own.url}/api/desk/calendar-accounts`, { method: 'POST', headers: host.headers, body: form })
      return { status: answer.status, body: await answer.json() as AccountView }
    }
    const { status, body: account } = await upload(entry('a', at(3), at(5)))
    expect([status, account.kind, account.label, account.calendars[0]?.entries]).toEqual([201, 'file', 'Rota', 1])
    expect(await openHours(host)).toEqual(allBut(3, 4))
    const again = await upload(entry('a', at(6), at(7)))
    expect(again.body.id).toBe(account.id)
    expect(await openHours(host)).toEqual(allBut(6))
    expect((await upload('no calendar at all')).status).toBe(422)

    await call(`${own.url}/api/desk/calendar-accounts/${account.id}`, { method: 'DELETE', headers: host.headers })
    expect(await openHours(host)).toEqual(allBut())
  })
})

describe('what counts', () => {
  it('is chosen calendar by calendar, and its zone', async () => {
    const host = await newHost()
    const calendar = await copperplateCalendar(copperplate, `counts-${host.hostId.slice(0, 8)}`, 'Work', 'Asia/Kolkata')
    await calendar.put('day.ics', entry('d', at(0), at(0)).replace(/DTSTART:.*/, `DTSTART;VALUE=DATE:${at(0).slice(0, 10).replaceAll('-', '')}`).replace(/DTEND:.*\r\n/, ''))
    await calendar.put('perhaps.ics', entry('p', at(20), at(21), 'STATUS:TENTATIVE'))
    const account = (await connect(host, calendar)).body as AccountView
    const id = account.calendars[0]?.id ?? ''
    const change = (body: object) => changeCalendar(host, id, body)
    // From 18:30 of the day before, by the calendar's own zone.
    expect(await openHours(host)).toEqual([19, 21, 22, 23])
    expect((await change({ timeZone: 'UTC' })).body).toMatchObject({ timeZone: 'UTC' })
    expect(await openHours(host)).toEqual([])
    await change({ countsAllDay: false })
    expect(await openHours(host)).toEqual(allBut(20))
    await change({ countsUnconfirmed: false })
    expect(await openHours(host)).toEqual(allBut())
    await change({ countsAllDay: true, blocks: false })
    expect(await openHours(host)).toEqual(allBut())
    expect((await change({ timeZone: 'Nowhere/Land' })).status).toBe(400)
  })

  it('leaves out entries that are holds, for the event type that names them alone', async () => {
    const host = await newHost()
    const calendar = await copperplateCalendar(copperplate, `holds-${host.hostId.slice(0, 8)}`)
    await calendar.put('a.ics', entry('a', at(9), at(10)).replace('Secret dentist', 'HOLD: interviews'))
    await calendar.put('b.ics', entry('b', at(11), at(12)).replace('Secret dentist', 'Household'))
    await connect(host, calendar)
    expect(await openHours(host)).toEqual(allBut(9, 11))
    await own.context.db.execute(sql`update event_types set settings = jsonb_set(settings, '{holds}', '["hold"]') where workspace_id = ${host.workspace.id}`)
    expect(await openHours(host)).toEqual(allBut(11))
  })
})

it('takes time in years to come, for openings and for a booking', async () => {
  const host = await newHost()
  const calendar = await copperplateCalendar(copperplate, `later-${host.hostId.slice(0, 8)}`)
  const inDays = (days: number) => (hour: number) => formatInstant(day + days * DAY + hour * 3600)
  // 500 days later, and its third repetition: both are further ahead than what is worked out beforehand.
  const [single, repeated] = [inDays(500), inDays(750)]
  await calendar.put('single.ics', entry('single', single(9), single(10)))
  await calendar.put('repeated.ics', entry('repeated', inDays(0)(11), inDays(0)(12), 'RRULE:FREQ=DAILY;INTERVAL=250'))
  const account = (await connect(host, calendar)).body as AccountView
  expect(await openHours(host, single(0))).toEqual(allBut(9, 11))
  expect(await openHours(host, repeated(0))).toEqual(allBut(11))
  expect((await book(own.url, `${host.workspace.slug}/talk`, request(repeated(11)))).status).toBe(409)
  expect((await book(own.url, `${host.workspace.slug}/talk`, request(repeated(12)))).status).toBe(201)
  await calendar.delete('repeated.ics')
  await look(host, account)
  expect(await openHours(host, repeated(0))).toEqual(allBut(12))
})

it('takes calendars into a host’s free/busy times where they want it', async () => {
  const host = await newHost()
  const calendar = await copperplateCalendar(copperplate, `freebusy-${host.hostId.slice(0, 8)}`)
  await calendar.put('a.ics', entry('a', at(9), at(10)))
  await connect(host, calendar)
  const address = `${own.url}/api/desk/hosts/${host.hostId}`
  const { body } = await call(`${address}/addresses`, { headers: host.headers })
  const periods = async () => (await (await fetch((body as { freeBusy: string }).freeBusy)).text()).match(/^FREEBUSY.*/gm) ?? []
  expect(await periods()).toEqual([])
  await call(`${address}/free-busy`, {
    method: 'PUT', headers: { ...host.headers, 'content-type': 'application/json' }, body: '{"withCalendars":true}',
  })
  const utc = (hours: number) => at(hours).replaceAll(/[-:]/g, '')
  expect(await periods()).toEqual([`FREEBUSY;FBTYPE=BUSY:${utc(9)}/${utc(10)}`])
})

it('shows titles to nobody but the host', async () => {
  const host = await newHost()
  const calendar = await copperplateCalendar(copperplate, `titles-${host.hostId.slice(0, 8)}`)
  await calendar.put('a.ics', entry('a', at(9), at(10)))
  await connect(host, calendar)
  const owner = await signIn(own.url, host.workspace.owner)
  const { body: openapi } = await call(`${own.url}/api/openapi.json`)
  const eventTypeId = (await call(`${own.url}/api/desk/event-types`, { headers: owner })).body[0].id
  const span = `from=${day}&to=${day + DAY}`
  const paths = Object.entries<{ get?: object }>(openapi.paths).filter(([, methods]) => methods.get).map(([path]) => path
    .replace('{workspace}', host.workspace.slug).replace('{eventType}', 'talk').replace(/event-types\/\{id\}/, `event-types/${eventTypeId}`).replace(/hosts\/\{id\}/, `hosts/${host.hostId}`))
  const texts = await Promise.all(paths.filter(path => !path.includes('{')).map(async path => (await fetch(
    `${own.url}${path}?timeZone=UTC&hosts=${host.hostId}&${path.includes('/taken') ? span : `from=${at(0).slice(0, 10)}&to=${at(0).slice(0, 10)}`}`, { headers: owner })).text()))
  expect(texts.length).toBeGreaterThan(15)
  expect(texts.filter(text => text.includes('dentist'))).toEqual([])
  expect(texts.some(text => text.includes('"calendar":"Work"'))).toBe(true)
  const ownView = await call(`${own.url}/api/desk/hosts/${host.hostId}/taken?${span}`, { headers: host.headers })
  expect(JSON.stringify(ownView.body)).toContain('Secret dentist')
})
