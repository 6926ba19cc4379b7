import { mkdtempSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { PASSWORD, people, workspace } from '../demo/people'
import { closeContext, makeContext } from '../server/start'
import { launchBrowser } from './run/browser'
import { startInstallation } from './run/installation'
import { log } from './run/report'

/** Takes one picture of each main view from a fresh demo. */

const FOLDER = 'docs/screenshots'
const folder = mkdtempSync('/var/tmp/temporia-pictures-')
const installation = await startInstallation(folder, { throwAway: true })
const { browser, close } = await launchBrowser()
const app = `http://127.0.0.1:${installation.places.appPort}`

async function newPage(zone: string, width: number, height: number): Promise<Page> {
  const page = await (await browser.createBrowserContext()).newPage()
  await page.setViewport({ width, height })
  await page.emulateTimezone(zone)
  return page
}

async function take(page: Page, name: string): Promise<void> {
  await page.waitForNetworkIdle({ idleTime: 600 })
  await page.screenshot({ path: join(FOLDER, `${name}.png`) as `${string}.png` })
  log(`Took ${name}`)
}

try {
  const client = await newPage('Asia/Kolkata', 1280, 800)
  // One of the hosts has no way to a room, and whose turn it is depends on the hour.
  for (const share of [1 / 3, 1 / 2, 2 / 3, 1 / 5, 4 / 5]) {
    await client.goto(`${app}/${workspace.slug}/damage-triage`)
    await client.waitForSelector('.timetable button')
    const starts = await client.$$('.timetable button')
    await starts[Math.floor(starts.length * share)]?.click()
    await client.waitForSelector('#client-name')
    await take(client, 'booking')
    await client.type('#client-name', 'Dr Nandini Bhowmik')
    await client.type('#client-email', 'n.bhowmik@lakeview.example')
    await client.click('.booking-form input[type=radio]')
    await client.type('#question-happened', 'A psalter fell into the font. The spine is loose.')
    await client.click('.booking-form [type=submit]')
    if (await client.waitForSelector('.numbers', { timeout: 10_000 }).catch(() => null)) break
  }
  await take(client, 'confirmation')

  const phone = await newPage('Asia/Kolkata', 390, 844)
  await phone.goto(`${app}/${workspace.slug}/damage-triage`)
  await take(phone, 'phone')
  const confirmed = await newPage('Asia/Kolkata', 390, 844)
  await confirmed.goto(`http://127.0.0.1:${installation.places.pigeonholePort}/inbox/n.bhowmik@lakeview.example`)
  const mail = await confirmed.waitForSelector('a[href*="/message/"]', { timeout: 30_000 })
  await confirmed.goto(await mail?.evaluate(link => `${(link as HTMLAnchorElement).href}`) ?? '')
  await take(confirmed, 'mail')

  const desk = await newPage('Europe/Lisbon', 1280, 800)
  await desk.goto(`${app}/desk/sign-in`)
  await desk.waitForSelector('#email')
  await desk.type('#email', people[0]?.email ?? '')
  await desk.type('#password', PASSWORD)
  await desk.click('[type=submit]')
  await desk.waitForSelector('.day-line')
  await take(desk, 'today')
  await desk.goto(`${app}/desk/book`)
  await desk.locator('::-p-aria([role="combobox"][name="Event type"])').click()
  await desk.locator('::-p-aria([role="option"][name="Damage triage call"])').click()
  await desk.locator('::-p-aria([role="textbox"][name="Name"])').fill('Dr Nandini Bhowmik')
  await desk.locator('::-p-aria([role="textbox"][name="E-mail"])').fill('n.bhowmik@lakeview.example')
  await desk.locator('.timetable button').click()
  await take(desk, 'book')
  await desk.goto(`${app}/desk/event-types`)
  await take(desk, 'event-types')
  await desk.goto(`${app}/desk/people`)
  await take(desk, 'people')
  await desk.goto(`${app}/desk/connections`)
  await desk.waitForSelector('.strip li')
  await take(desk, 'connections')
  await desk.goto(`${app}/desk/sessions`)
  await desk.waitForSelector('tbody tr')
  await take(desk, 'sessions')
  const context = await makeContext(installation.environment)
  const { rows } = await context.pool.query<{ bench: string, group: string, host: string, asked: string, hours: string, session: string }>(`select
    (select id from event_types where slug = 'damage-triage') as bench,
    (select id from host_groups limit 1) as group,
    (select id from hosts where slug = 'imani') as host,
    (select id from event_types where slug = 'insurance-loss') as asked,
    (select p.id from hours_plans p join hosts h on h.id = p.host_id where h.name = 'Teodor Vass') as hours,
    (select s.id from sessions s join rooms r on r.session_id = s.id where r.state = 'ready' and s.starts_at > now() order by s.starts_at limit 1) as session`)
  await closeContext(context)
  await desk.goto(`${app}/desk/people/${rows[0]?.host}`)
  await desk.waitForSelector('.side li')
  await take(desk, 'host')
  await desk.goto(`${app}/desk/rotation/${rows[0]?.group}`)
  await desk.waitForSelector('.what-if tbody tr')
  await take(desk, 'group')
  await desk.goto(`${app}/desk/event-types/${rows[0]?.bench}`)
  await desk.waitForSelector('.modes button')
  await desk.click('.modes button:nth-child(2)')
  const typed = await desk.waitForSelector('.hours-panel .field input')
  await typed?.click({ count: 3 })
  await typed?.type('Tu-Th 09:00-12:00,13:00-15:00')
  await take(desk, 'bench')
  await desk.goto(`${app}/desk/event-types/${rows[0]?.bench}?panel=questions`)
  await desk.waitForSelector('.preview')
  await take(desk, 'questions')
  await desk.goto(`${app}/desk/messages?eventType=${rows[0]?.bench}&message=before.client`)
  await desk.waitForSelector('.preview article')
  await take(desk, 'messages')
  await desk.goto(`${app}/desk/hours/${rows[0]?.hours}`)
  const [from, to] = await Promise.all(
    [10, 23].map(async date =>
      (await desk.waitForSelector(`.month:nth-child(2) button:nth-of-type(${date})`))?.evaluate((element) => {
        element.closest('.plan-editor')?.scrollIntoView()
        const { x, y } = element.getBoundingClientRect()
        return { x: x + 8, y: y + 8 }
      }),
    ),
  )
  await desk.mouse.move(from?.x ?? 0, from?.y ?? 0)
  await desk.mouse.down()
  await desk.mouse.move(to?.x ?? 0, to?.y ?? 0, { steps: 5 })
  await desk.mouse.up()
  await take(desk, 'hours')
  const asked = await newPage('Europe/Lisbon', 1280, 800)
  await asked.setCookie(...await desk.cookies())
  await asked.goto(`${app}/desk/event-types/${rows[0]?.asked}`)
  // Which days have an empty place depends on the day it is.
  const place = await asked.waitForSelector('.timetable button.place')
  await place?.click()
  await asked.waitForSelector('.why')
  await take(asked, 'why-not')
  const session = await newPage('Europe/Lisbon', 1280, 800)
  await session.setCookie(...await desk.cookies())
  await session.goto(`${app}/desk/sessions/${rows[0]?.session}`)
  await session.waitForSelector('.trail')
  await take(session, 'session')

  const newcomer = await newPage('Europe/Lisbon', 1280, 800)
  await newcomer.goto(`${app}/desk/sign-up`)
  const given = {
    workspace: 'Mossbank Letters',
    name: 'Ines Cardoso',
    email: 'ines.cardoso@mossbank.example',
    password: 'marble under the snow',
  }
  for (const [field, text] of Object.entries(given)) await (await newcomer.waitForSelector(`#${field}`))?.type(text)
  await newcomer.click('[type=submit]')
  await newcomer.waitForSelector('.begin form')
  await newcomer.click('.begin [type=submit]')
  await newcomer.waitForSelector('.page-preview')
  await take(newcomer, 'first-run')
} finally {
  await close()
  await installation.stop()
  rmSync(folder, { recursive: true, force: true })
}
