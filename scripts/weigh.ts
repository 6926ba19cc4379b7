import { mkdtempSync, rmSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import { type Page, PredefinedNetworkConditions } from 'puppeteer-core'
import { PASSWORD, people, workspace } from '../demo/people'
import { launchBrowser } from './run/browser'
import { startInstallation } from './run/installation'

/** What the first pages of clients and of members load, and when a client's first openings show on a slow phone. */

const GOALS = { scriptKb: 110, styleKb: 15, seconds: 1.5, deskScriptKb: 400 }
const SLOWDOWN = 4
/** Runs in the page, so it is text: the frame after which the first suggestion is on the screen. */
const WATCH = `
  (function look() {
    const first = document.querySelector('.suggestions button')
    if (first && first.getBoundingClientRect().height > 0) requestAnimationFrame(() => { window.shownAt = performance.now() })
    else requestAnimationFrame(look)
  })()`
const folder = mkdtempSync('/var/tmp/temporia-weigh-')
const installation = await startInstallation(folder, { throwAway: true })
const { browser, close } = await launchBrowser()
const app = `http://127.0.0.1:${installation.places.appPort}`

/** The bytes of script and style that pages of a browser load, as they come over the wire, until it is asked again. */
async function scaleFor(page: Page): Promise<() => { script: number, style: number }> {
  const session = await page.createCDPSession()
  await session.send('Network.enable')
  const kinds = new Map<string, string>()
  let sizes = { script: 0, style: 0 }
  session.on('Network.responseReceived', ({ requestId, type }) => kinds.set(requestId, type))
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (kinds.get(requestId) === 'Script') sizes.script += encodedDataLength
    if (kinds.get(requestId) === 'Stylesheet') sizes.style += encodedDataLength
  })
  return () => {
    const weighed = sizes
    sizes = { script: 0, style: 0 }
    return weighed
  }
}

const line = (what: string, value: number, unit: string, goal: number | null) =>
  process.stdout.write(`${what}: ${value.toFixed(2)} ${unit}${goal === null ? '' : ` (goal ${goal} ${unit})`}\n`)

async function weighClientsPage(): Promise<void> {
  const times: number[] = []
  let sizes = { script: 0, style: 0 }
  for (let run = 0; run < 5; run++) {
    const page = await (await browser.createBrowserContext()).newPage()
    const weigh = await scaleFor(page)
    await page.emulateNetworkConditions(PredefinedNetworkConditions['Slow 4G'])
    await page.emulateCPUThrottling(SLOWDOWN)
    await page.evaluateOnNewDocument(WATCH)
    await page.goto(`${app}/${workspace.slug}/damage-triage`, { waitUntil: 'networkidle0' })
    sizes = weigh()
    // Styles that stand in the document weigh as much as those in files.
    sizes.style += gzipSync(await page.$$eval('style', styles => styles.map(style => style.textContent).join(''))).length
    times.push(await page.evaluate(() => Number(Reflect.get(window, 'shownAt'))) / 1000)
    await page.browserContext().close()
  }
  const median = [...times].sort((a, b) => a - b)[2] ?? 0
  line('A client’s page, script before the form', sizes.script / 1000, 'kB', GOALS.scriptKb)
  line('A client’s page, style before the form', sizes.style / 1000, 'kB', GOALS.styleKb)
  line('First openings shown on slow 4G and a fourth of the CPU, median of 5', median, 's', GOALS.seconds)
}

async function weighDesk(): Promise<void> {
  const context = await browser.createBrowserContext()
  const [owner] = people
  await signIn(owner?.email ?? '')
  for (const [name, path, goal] of [['Today', '/desk', GOALS.deskScriptKb], ['The bench', await benchPath(), GOALS.deskScriptKb]] as const) {
    const page = await context.newPage()
    await page.setCacheEnabled(false)
    const weigh = await scaleFor(page)
    await page.goto(`${app}${path}`, { waitUntil: 'networkidle0' })
    const worker = await page.evaluate(() => performance.getEntriesByType('resource')
      .filter(entry => /worker/.test(entry.name)).reduce((sum, entry) => sum + Reflect.get(entry, 'encodedBodySize'), 0))
    line(`${name}, script`, weigh().script / 1000, 'kB', goal)
    if (worker > 0) line(`${name}, its worker`, worker / 1000, 'kB', null)
    await page.close()
  }

  async function signIn(email: string): Promise<void> {
    const page = await context.newPage()
    await page.goto(`${app}/desk/sign-in`, { waitUntil: 'networkidle0' })
    await page.type('#email', email)
    await page.type('#password', PASSWORD)
    await page.keyboard.press('Enter')
    await page.waitForFunction(() => location.pathname === '/desk')
    await page.close()
  }

  async function benchPath(): Promise<string> {
    const page = await context.newPage()
    await page.goto(`${app}/desk/event-types`, { waitUntil: 'networkidle0' })
    const path = await page.$eval('a[href*="/desk/event-types/"]', link => link.getAttribute('href') ?? '')
    await page.close()
    return path
  }
}

try {
  await weighClientsPage()
  await weighDesk()
} finally {
  await close()
  await installation.stop()
  rmSync(folder, { recursive: true, force: true })
}
