import { presetWays } from '../../core/rooms/ways'
import { mkdtempSync, rmSync } from 'node:fs'
import { PASSWORD, people } from '../../demo/people'
import { instantToSeconds } from '../../core/time/civil'
import type { BenchView } from '../../core/views/event-types'
import type { OpeningsQuery } from '../../core/openings'
import { launchBrowser } from '../run/browser'
import { startInstallation } from '../run/installation'
import { benchOf } from './work'

/** How long a keystroke takes on the real bench, in a real browser, until the timetable that follows from it is painted. */

const KEYSTROKES = 120
const PAUSE_MS = 150

/** Runs in the page, so it is text: from the key to the frame after the timetable has changed. */
const WATCH = `
  window.times = []
  window.longest = 0
  new PerformanceObserver(list => { for (const one of list.getEntries()) window.longest = Math.max(window.longest, one.duration) }).observe({ entryTypes: ['longtask'] })
  let pressed = 0
  document.addEventListener('keydown', event => { pressed = event.timeStamp }, true)
  new MutationObserver(() => {
    if (!pressed) return
    const from = pressed
    pressed = 0
    requestAnimationFrame(() => { const { port1, port2 } = new MessageChannel(); port1.onmessage = () => window.times.push(performance.now() - from); port2.postMessage(0) })
  }).observe(document.querySelector('.consequences table'), { childList: true, subtree: true, attributes: true })`

export interface ScreenTimes {
  medianMs: number
  p95Ms: number
  /** The longest that typing could not be answered. */
  longestTaskMs: number
}

export async function measureScreen(query: OpeningsQuery): Promise<ScreenTimes> {
  const folder = mkdtempSync('/var/tmp/temporia-bench-')
  const installation = await startInstallation(folder, { throwAway: true })
  const { browser, close } = await launchBrowser()
  try {
    const app = `http://127.0.0.1:${installation.places.appPort}`
    const page = await browser.newPage()
    await page.setViewport({ width: 1280, height: 800 })
    await page.emulateTimezone('Europe/Lisbon')
    await page.goto(`${app}/desk/sign-in`, { waitUntil: 'networkidle0' })
    await page.type('#email', people[0]?.email ?? '')
    await page.type('#password', PASSWORD)
    await page.keyboard.press('Enter')
    await page.waitForFunction('location.pathname === "/desk"')

    const view = viewOf(query)
    await page.setRequestInterception(true)
    page.on('request', (request) => {
      const answer = (body: unknown) => void request.respond({ contentType: 'application/json', body: JSON.stringify(body) })
      if (request.url() === `${app}/api/desk/event-types/work`) answer(view)
      else if (request.url().startsWith(`${app}/api/desk/event-types/work/`)) answer({})
      else void request.continue()
    })
    await page.goto(`${app}/desk/event-types/work?panel=startEvery`, { waitUntil: 'networkidle0' })
    await page.waitForSelector('.consequences table')
    const field = await page.$('.bench-panel input')
    await field?.click({ count: 3 })
    await page.keyboard.type('1')
    await new Promise(resolve => setTimeout(resolve, 1000))
    await page.evaluate(WATCH)
    // A start every minute and every 15 minutes, in turn: every cell of the timetable changes.
    for (let i = 0; i < KEYSTROKES; i++) {
      await page.keyboard.press(i % 2 === 0 ? '5' : 'Backspace')
      await new Promise(resolve => setTimeout(resolve, PAUSE_MS))
    }
    const times: number[] = (await page.evaluate('window.times') as number[]).sort((a, b) => a - b)
    if (times.length < KEYSTROKES * 0.9) throw new Error(`Only ${times.length} of ${KEYSTROKES} keystrokes changed the timetable`)
    const at = (share: number) => times[Math.floor(times.length * share)] ?? NaN
    return { medianMs: at(0.5), p95Ms: at(0.95), longestTaskMs: Number(await page.evaluate('window.longest')) }
  } finally {
    await close()
    await installation.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}

function viewOf(query: OpeningsQuery): BenchView {
  const { definition, workerContext } = benchOf(query)
  return {
    id: 'work',
    version: 1,
    archived: false,
    definition,
    draft: null,
    page: '/',
    hosts: [...workerContext.hosts],
    time: [...workerContext.time],
    booked: [],
    holidays: {},
    linkedFrom: [], messages: [],
    roomWays: { order: [...presetWays], hasPattern: false, accounts: [] },
    canBePaid: false,
    questionSets: [],
    groups: [],
    sharedPlans: [],
    members: [],
    now: instantToSeconds(query.now),
  }
}
