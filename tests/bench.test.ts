import { randomUUID } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Browser, ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { PASSWORD, people, workspace as demo } from '../demo/people'
import { DAY, formatDate, instantToSeconds } from '../core/time/civil'
import { zoneOf } from '../core/time/zone'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { launchBrowser, Visitor } from './support/browser'
import { call } from './support/http'
import { addMember, makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let browser: Browser
let close: () => Promise<void>
let owner: Visitor

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const place = { key: 'studio', kind: 'address' as const, label: 'studio', detail: 'Pátio do Prelo 7' }
  // Few hours: a large timetable is slow to find one's way in by role and name.
  workspace = await makeWorkspace(context, { hosts: 2, hours: 'Mo-Su 09:00-11:00', eventTypes: ['Talk', 'Review', 'Visit'].map(name => ({ slug: name.toLowerCase(), settings: { name, places: [place] } })) })
  const launched = await launchBrowser()
  browser = launched.browser
  close = launched.close
  owner = await Visitor.arrive(browser, 'Europe/Lisbon')
  await owner.signIn(workspace.owner.email, workspace.owner.password)
})
afterAll(async () => {
  await owner.leave()
  await close()
  await closeContext(context)
})

async function openBench(visitor: Visitor, name: string, panel = 'hours'): Promise<void> {
  await visitor.open(`${app}/desk/event-types`)
  const href = await (await visitor.find('link', name)).evaluate(link => (link as HTMLAnchorElement).href)
  await visitor.open(`${href}?panel=${panel}`)
  await visitor.sees('openings in the next 7 days')
}

interface Point { x: number, y: number }

async function stroke({ page }: Visitor, from: Point, to: Point, by: 'mouse' | 'finger' = 'mouse'): Promise<void> {
  const { mouse, touchscreen } = page
  const [begin, move, end] = by === 'finger'
    ? [() => touchscreen.touchStart(from.x, from.y), (x: number, y: number) => touchscreen.touchMove(x, y), () => touchscreen.touchEnd()]
    : [async () => { await mouse.move(from.x, from.y); await mouse.down() }, (x: number, y: number) => mouse.move(x, y, { steps: 3 }), () => mouse.up()]
  await begin()
  await move((from.x + to.x) / 2, (from.y + to.y) / 2)
  await move(to.x, to.y)
  await end()
}

/** Drags over a part of a day, given as shares of its width. */
async function paint(visitor: Visitor, day: string, from: number, to: number, by: 'mouse' | 'finger' = 'mouse'): Promise<void> {
  const box = await (await visitor.find('slider', day)).boundingBox()
  if (!box) throw new Error(`${day} cannot be seen`)
  const y = box.y + box.height / 2
  await stroke(visitor, { x: box.x + box.width * from, y }, { x: box.x + box.width * to, y }, by)
}

const fieldValue = async (visitor: Visitor, label: string) => (await visitor.find('textbox', label)).evaluate(one => (one as HTMLInputElement).value)
const at = (hours: number) => hours / 24 + 0.001

describe('the bench', () => {
  it('is painted on, typed at, undone and done again, with the sentence and the timetable following', async () => {
    await openBench(owner, 'Talk')
    await owner.press('radio', 'Only within these hours*')
    await owner.write('Hours of the week', 'Mo-Su 10:00-12:00')
    await owner.sees('Monday to Sunday 10:00–12:00')
    await paint(owner, 'Wednesday', at(13), at(14.9))
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Mo-Tu,Th-Su 10:00-12:00; We 10:00-12:00,13:00-15:00')
    await owner.sees('Wednesday 10:00–12:00 and 13:00–15:00')
    await paint(owner, 'Monday', at(10), at(11.9))
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Tu,Th-Su 10:00-12:00; We 10:00-12:00,13:00-15:00')

    // The same by keyboard: from the cursor on, Space begins and ends a stroke.
    await (await owner.find('slider', 'Sunday')).focus()
    const keys = owner.page.keyboard
    await keys.press('Home')
    await keys.down('Shift')
    for (let hour = 0; hour < 20; hour++) await keys.press('ArrowRight')
    await keys.up('Shift')
    await keys.press('Space')
    for (let quarter = 0; quarter < 3; quarter++) await keys.press('ArrowRight')
    await keys.press('Space')
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Tu,Th-Sa 10:00-12:00; We 10:00-12:00,13:00-15:00; Su 10:00-12:00,20:00-21:00')
    await owner.isAccessible()

    await keys.down('Control')
    await keys.press('z')
    await keys.up('Control')
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Tu,Th-Su 10:00-12:00; We 10:00-12:00,13:00-15:00')
    await owner.press('button', 'Redo')
    await owner.sees('Sunday 10:00–12:00 and 20:00–21:00')

    await owner.write('Hours of the week', 'Mo-Fr 09:00-13:00,12:00-15:00')
    await owner.sees('overlap')
    await owner.write('Hours of the week', 'Mo-Su 10:00-13:00')
    await owner.sees(/\d+ → \d+\s+openings in the next 7 days/)
    await owner.sees('kept as your draft')
    await owner.page.reload({ waitUntil: 'networkidle0' })
    await owner.sees('Monday to Sunday 10:00–13:00')
    await owner.press('button', 'Discard all')
    await owner.sees('whenever their hours allow')
  })

  it('edits every part from the sentence, and the way out of a check with one press', async () => {
    await openBench(owner, 'Visit', 'chairs')
    await owner.press('button', 'Take Host 1 out of the chair')
    await owner.sees('with Host,')
    await owner.press('button', 'and also …')
    await owner.press('button', 'limits')
    await owner.write('Sessions a day for each host', '2')
    await owner.sees('at most 2 a day for each host')
    await owner.press('button', '30 minutes')
    await owner.write('Minutes', '15')
    await owner.sees('leave 5 minutes unused')
    await owner.press('button', 'Start every 25 minutes')
    await owner.sees('every 25 minutes')
    await owner.press('button', 'open, listed')
    await owner.write('Short address', 'Not Good')
    await owner.sees('Small letters, figures and single hyphens')
    await owner.write('Short address', 'talk')
    await owner.press('button', 'Publish…')
    await owner.sees(/Sessions a day for each host: no limit → at most 2/)
    await owner.sees('Everything booked already would still be allowed.')
    await owner.isAccessible()
    await owner.press('button', 'Publish')
    await owner.sees('This address leads to “Talk”')
    await owner.press('button', 'Keep editing')
    await owner.write('Short address', 'visit-us')
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Published. Clients see it from now on.')
    await owner.press('button', 'history')
    await owner.sees(/Short address: visit → visit-us/)
    await owner.press('button', 'Bring this version back')
    await owner.sees('5 changes not published')
    await owner.press('button', 'Discard all')
  })

  it('builds questions that the form beside it asks at once', async () => {
    await openBench(owner, 'Review')
    await owner.press('button', 'and also …')
    await owner.press('button', 'questions')
    await owner.press('button', 'Ask another question')
    await owner.write('Wording of question 1', 'Is it wet?')
    await (await owner.page.$('select[aria-label="Kind of answer 1"]'))?.select('yesNo')
    await owner.press('button', 'Ask another question')
    await owner.write('Wording of question 2', 'Since when?')
    await owner.press('checkbox', 'An answer is needed')
    await (await owner.page.waitForSelector('.body select:not([aria-label])'))?.select('question1 true')
    await owner.find('group', 'Is it wet? (if you like)')
    expect(await owner.page.$('::-p-aria([name="Since when?"][role="textbox"])')).toBeNull()
    await owner.press('radio', 'Yes')
    await owner.find('textbox', 'Since when?')
    await owner.press('button', 'Check the answers')
    await owner.sees('Please answer this')
    await owner.write('Since when?', 'Monday')
    await owner.press('button', 'Check the answers')
    await owner.sees('These answers would do.')
    await expect.poll(() => owner.page.$$('.v-messages__message').then(all => all.length), { message: 'the fault has gone' }).toBe(0)
    await owner.isAccessible()
    await (await owner.find('button', 'Question 2, Since when?: drag, or move with the arrow keys')).press('ArrowUp')
    await owner.sees('It can depend only on a question before it')
    await owner.press('button', 'Undo')
    await owner.press('button', 'Discard all')
  })

  it('tells the second of two members whose change came first, shows the difference and puts both together', async () => {
    const colleague = await Visitor.arrive(browser, 'Europe/Lisbon')
    const { email, password } = await addMember(context, workspace, 'coordinator')
    await colleague.signIn(email, password)
    await openBench(colleague, 'Talk', 'buffers')
    await openBench(owner, 'Talk', 'leadTime')
    await colleague.write('Kept free after', '20')
    await colleague.press('button', 'Publish…')
    await colleague.press('button', 'Publish')
    await colleague.sees('Published. Clients see it from now on.')
    await owner.write('At least this long before its start', '90')
    await owner.sees('at least 90 minutes')
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Test coordinator has published first')
    await owner.sees(/They changed\s+Kept free after: 10 minutes → 20 minutes\s+You changed\s+How soon before: up to the last moment → at least 90 minutes/)
    await owner.isAccessible()
    await owner.press('button', 'Put my changes onto theirs')
    await owner.sees('with 20 minutes after kept free')
    await owner.sees('at least 90 minutes')
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Published. Clients see it from now on.')
    await colleague.leave()
  })

  it('publishes after the draft that is still on its way, so that this cannot come back', async () => {
    await openBench(owner, 'Talk', 'buffers')
    await owner.page.setRequestInterception(true)
    const onItsWay = new Promise<void>((resolve) => {
      owner.page.on('request', async (request) => {
        if (request.method() === 'PUT') {
          resolve()
          await new Promise(wait => setTimeout(wait, 1500))
        }
        await request.continue()
      })
    })
    await owner.write('Kept free after', '25')
    await onItsWay
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Published. Clients see it from now on.')
    owner.page.removeAllListeners('request')
    await owner.page.setRequestInterception(false)
    await openBench(owner, 'Talk', 'buffers')
    await owner.sees('with 25 minutes after kept free')
    expect(await owner.text()).not.toMatch('published first')
  })

  it('puts the list into another order by dragging and by keys', async () => {
    const names = () => owner.page.$$eval('h2 a', all => all.map(one => one.textContent))
    await owner.open(`${app}/desk/event-types`)
    await owner.isAccessible()
    await (await owner.find('button', 'Visit: drag, or move with the arrow keys')).press('ArrowUp')
    await expect.poll(names).toEqual(['Talk', 'Visit', 'Review'])
    const [from, to] = await Promise.all(['Review', 'Talk'].map(async name => (await owner.find('button', `${name}: drag, or move with the arrow keys`)).boundingBox()))
    await owner.page.mouse.move((from?.x ?? 0) + 5, (from?.y ?? 0) + 5)
    await owner.page.mouse.down()
    await owner.page.mouse.move((to?.x ?? 0) + 5, (to?.y ?? 0) + 8, { steps: 5 })
    await owner.page.mouse.up()
    await expect.poll(names).toEqual(['Review', 'Talk', 'Visit'])
    await owner.page.reload({ waitUntil: 'networkidle0' })
    expect(await names()).toEqual(['Review', 'Talk', 'Visit'])
  })
})

describe('hours', () => {
  it('are painted, given a holiday of two weeks on the year strip, saved, written to a file and read back', async () => {
    await owner.open(`${app}/desk/hours`)
    await owner.press('link', 'Host 0')
    await owner.sees('Used by')
    await owner.isAccessible()
    await paint(owner, 'Sunday', at(9), at(10.9))
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Mo-Sa 09:00-11:00')
    await paint(owner, 'Sunday', at(13), at(14.9), 'finger')
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Mo-Sa 09:00-11:00; Su 13:00-15:00')
    await owner.press('button', 'Add a recurring window')
    await owner.sees(/every other Thursday: next/i)
    await owner.press('button', 'Add this window')
    await owner.sees(/every other Thursday, 14:00–16:00/i)

    // Within a month, so that both days stand in one row.
    const today = Math.floor(Date.now() / 1000 / DAY)
    const month = new Date((today + 32) * DAY * 1000)
    const day = (date: number) => Date.UTC(month.getUTCFullYear(), month.getUTCMonth(), date) / 1000 / DAY
    const cell = (date: number) => owner.page.$eval(`[data-day="${day(date)}"]`, (one) => {
      one.scrollIntoView({ block: 'center' })
      const { x, y, width, height } = one.getBoundingClientRect()
      return { x: x + width / 2, y: y + height / 2 }
    })
    for (const [first, last, by] of [[5, 18, 'mouse'], [21, 22, 'finger']] as const) {
      await stroke(owner, await cell(first), await cell(last), by)
      await owner.press('button', 'Closed')
      await owner.sees(new RegExp(`\\w{3} ${first} \\w+ to \\w{3} ${last} \\w+: closed`))
    }
    await owner.press('button', 'Save')
    await owner.sees('Saved. Clients see it from now on.')
    const { rows } = await context.db.execute<{ plan: { exceptions: unknown[] } }>(`select plan from hours_plans where host_id = '${workspace.hosts[0]?.id}'`)
    expect(rows[0]?.plan.exceptions).toHaveLength(16)

    const saved = await owner.saves(() => owner.press('button', 'Save as a calendar file'), '.ics')
    expect(saved).toContain('BEGIN:VAVAILABILITY')
    const file = join(inject('folder'), `${randomUUID()}.ics`)
    const upload = async (path: string) => (await owner.page.$('input[type="file"]') as ElementHandle<HTMLInputElement> | null)?.uploadFile(path)
    writeFileSync(file, saved.replace(/EXDATE.*\r\n/g, ''))
    await upload(file)
    await owner.sees('Nothing is saved yet.')
    await owner.sees('Drag over days to close them')
    expect(await owner.text()).not.toMatch(/\w{3} 5 \w+ to \w{3} 18 \w+: closed/)
    writeFileSync(file, 'BEGIN:NOTHING')
    await upload(file)
    await owner.sees('This is not an iCalendar file')
    owner.page.once('dialog', dialog => void dialog.accept())
  })
})

describe('the first run', () => {
  it('leads from nothing to a page that clients can book, in under two minutes', async () => {
    const begun = Date.now()
    const newcomer = await Visitor.arrive(browser, 'Asia/Kolkata')
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
    await newcomer.isAccessible()
    await newcomer.press('button', 'Open my page')
    await newcomer.sees('Clients can book you now')
    const page = await (await newcomer.page.waitForSelector('.link a'))?.evaluate(link => (link as HTMLAnchorElement).href) ?? ''
    await newcomer.isAccessible()
    await newcomer.leave()
    expect(Date.now() - begun).toBeLessThan(120_000)

    const client = await Visitor.arrive(browser, 'Asia/Kolkata')
    await client.open(page)
    await client.sees('Talk with Ines')
    expect((await client.page.$$('.timetable button')).length).toBeGreaterThan(20)
    await client.leave()
  })
})

describe('the demo', () => {
  it('shows on the bench of each event type what its clients see', async () => {
    const zone = demo.timeZone
    const member = await Visitor.arrive(browser, zone)
    const first = people[0]
    if (!first) throw new Error('Nobody is there')
    await member.signIn(first.email, PASSWORD)
    await member.open(`${app}/desk/event-types`)
    const benches = await member.page.$$eval('h2 a', all => all.map(one => (one as HTMLAnchorElement).href))
    expect(benches).toHaveLength(6)
    let found = 0
    for (const href of benches) {
      await member.open(href)
      await member.sees('openings in the next 7 days')
      const path = new URL(await (await member.find('link', 'Look as a client')).evaluate(link => (link as HTMLAnchorElement).href)).pathname
      const durations: string[] = await member.page.$$eval('select[aria-label="Duration that is shown"] option', all => all.map(one => (one as HTMLOptionElement).value))
      for (const duration of durations.length > 0 ? durations : [undefined]) {
        if (duration) await (await member.page.$('select[aria-label="Duration that is shown"]'))?.select(duration)
        const today = zoneOf(zone).dayOf(Math.floor(Date.now() / 1000))
        const query = new URLSearchParams({ from: formatDate(today), to: formatDate(today + 13), timeZone: zone, ...(duration ? { duration } : {}) })
        // The bench stands at the moment it was opened: what became too soon since then is left aside.
        const settled = (starts: number[]) => starts.filter(start => start > Math.floor(Date.now() / 1000) + 2 * DAY + 600)
        const expected = settled((await call(`${app}/api/public${path}/openings?${query}`)).body.openings.map((one: { start: string }) => instantToSeconds(one.start)))
        await expect.poll(async () => settled(await member.page.$$eval('.consequences table button[data-at]:not(.nothing)', all => all.map(one => Number((one as HTMLElement).dataset['at'])))),
          { message: `${path} ${duration ?? ''}` }).toEqual(expected)
        found += expected.length
      }
    }
    expect(found).toBeGreaterThan(300)
    await member.leave()
  })
})
