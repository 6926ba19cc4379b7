import { mkdtempSync, rmSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import { PredefinedNetworkConditions } from 'puppeteer-core'
import { workspace } from '../demo/people'
import { launchBrowser } from './run/browser'
import { startInstallation } from './run/installation'

/** What an event type's page loads before its form opens, and when its first openings show on a slow phone. */

const GOALS = { scriptKb: 110, styleKb: 15, seconds: 1.5 }
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

try {
  const url = `http://127.0.0.1:${installation.places.appPort}/${workspace.slug}/damage-triage`
  const times: number[] = []
  let sizes = { script: 0, style: 0 }
  for (let run = 0; run < 5; run++) {
    const page = await (await browser.createBrowserContext()).newPage()
    const session = await page.createCDPSession()
    await session.send('Network.enable')
    const kinds = new Map<string, string>()
    sizes = { script: 0, style: 0 }
    session.on('Network.responseReceived', ({ requestId, type }) => kinds.set(requestId, type))
    session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      if (kinds.get(requestId) === 'Script') sizes.script += encodedDataLength
      if (kinds.get(requestId) === 'Stylesheet') sizes.style += encodedDataLength
    })
    await page.emulateNetworkConditions(PredefinedNetworkConditions['Slow 4G'])
    await page.emulateCPUThrottling(SLOWDOWN)
    await page.evaluateOnNewDocument(WATCH)
    await page.goto(url, { waitUntil: 'networkidle0' })
    // Styles that stand in the document weigh as much as those in files.
    sizes.style += gzipSync(await page.$$eval('style', styles => styles.map(style => style.textContent).join(''))).length
    times.push(await page.evaluate(() => Number(Reflect.get(window, 'shownAt'))) / 1000)
    await page.browserContext().close()
  }
  const median = [...times].sort((a, b) => a - b)[2] ?? 0
  const line = (what: string, value: number, goal: number, unit: string) =>
    process.stdout.write(`${what}: ${value.toFixed(2)} ${unit} (goal ${goal} ${unit})\n`)
  line('Script before the form', sizes.script / 1000, GOALS.scriptKb, 'kB')
  line('Style before the form', sizes.style / 1000, GOALS.styleKb, 'kB')
  line('First openings shown on slow 4G and a fourth of the CPU, median of 5', median, GOALS.seconds, 's')
} finally {
  await close()
  await installation.stop()
  rmSync(folder, { recursive: true, force: true })
}
