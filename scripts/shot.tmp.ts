import { launchBrowser } from './run/browser'
// usage: out url width height [actions js]
const [out, url, w, h, signin, js, zone, scheme] = process.argv.slice(2)
const { browser, close } = await launchBrowser()
const page = await browser.newPage()
await page.setViewport({ width: Number(w), height: Number(h) })
await page.emulateTimezone(zone || 'Asia/Kolkata')
if (scheme) await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: scheme }])
page.on('console', m => console.log('console', m.type(), m.text()))
page.on('pageerror', e => console.log('pageerror', String(e)))
page.on('requestfailed', r => console.log('failed', r.url()))
if (signin === 'yes') {
  await page.goto('http://127.0.0.1:4310/desk/sign-in', { waitUntil: 'networkidle0' })
  await page.type('#email', 'ottoline.marsh@fernhollow.example'); await page.type('#password', 'paper-and-paste')
  await page.click('button[type=submit]'); await page.waitForFunction(() => location.pathname === '/desk')
}
await page.goto(url!, { waitUntil: 'load' })
await new Promise(r => setTimeout(r, 1500))
if (js) { await page.evaluate(js); await new Promise(r => setTimeout(r, 1500)) }
await page.screenshot({ path: out! as `${string}.png` })
await close()
