import { mkdtempSync, chmodSync, rmSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { PASSWORD, people, workspace } from './demo/people'
import { launchBrowser } from './scripts/run/browser'
import { startInstallation } from './scripts/run/installation'
import { closeContext, makeContext } from './server/start'
const folder = mkdtempSync('/var/tmp/temporia-shots-'); chmodSync(folder, 0o755)
const inst = await startInstallation(folder, { throwAway: true, more: { RETRY_PACE: '0.02' } })
const { browser, close } = await launchBrowser()
const app = `http://127.0.0.1:${inst.places.appPort}`
const context = await makeContext(inst.environment)
async function page(w = 1280, h = 800, zone = 'Europe/Lisbon') { const p = await (await browser.createBrowserContext()).newPage(); await p.setViewport({ width: w, height: h }); await p.emulateTimezone(zone); return p }
const shot = async (p: any, n: string) => { await p.waitForNetworkIdle({ idleTime: 600 }).catch(() => {}); await p.screenshot({ path: `/tmp/shots/${n}.png` }); console.log('took', n) }
const fault = (port: number, kind: string) => fetch(`http://127.0.0.1:${port}/faults`, { method: 'POST', redirect: 'manual', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ kind }) })
try {
  const up = await page()
  await up.goto(`${app}/desk/sign-up`); await up.waitForSelector('#email')
  const email = `ines.${randomUUID().slice(0, 4)}@mossbank.example`
  await up.type('#workspace', 'Mossbank Letters'); await up.type('#name', 'Ines Cardoso'); await up.type('#email', email); await up.type('#password', 'mossbank letters')
  await up.click('[type=submit]'); await new Promise(r => setTimeout(r, 1500)); await shot(up, 'signup-weak')
  await up.click('#password', { clickCount: 3 }); await up.type('#password', 'marble under the snow'); await up.click('[type=submit]')
  await up.waitForSelector('.begin'); await shot(up, 'begin-banner')
  await up.click('form [type=submit]'); await up.waitForSelector('.ready'); await shot(up, 'begin-ready')
  const inbox = async () => (await (await fetch(`http://127.0.0.1:${inst.places.pigeonholePort}/api/inbox/${encodeURIComponent(email)}`)).json()).messages
  for (let i = 0; i < 50 && (await inbox()).length === 0; i++) await new Promise(r => setTimeout(r, 200))
  const [mail] = await inbox()
  const m = await page(); await m.goto(`http://127.0.0.1:${inst.places.pigeonholePort}/message/${mail.id}`); await shot(m, 'mail-confirm')
  const raw = (await (await fetch(`http://127.0.0.1:${inst.places.pigeonholePort}/message/${mail.id}/raw.eml`)).text()).replace(/=\r?\n/g, '').replace(/=3D/g, '=')
  const link = /http\S+confirm\?token=[\w-]+/.exec(raw)![0]
  const other = await page(); await other.goto(link); await other.waitForSelector('#password'); await shot(other, 'confirm-password')
  await up.goto(link); await new Promise(r => setTimeout(r, 1500)); await shot(up, 'confirm-done')
  const lost = await page(390, 844); await lost.goto(`${app}/nowhere`); await shot(lost, 'error-phone')

  await fault(inst.places.smtpPort && inst.places.pigeonholePort, 'refusing')
  await fault(inst.places.lanternPort, 'refusing')
  const client = await page(1280, 800, 'Asia/Kolkata')
  await client.goto(`${app}/${workspace.slug}/damage-triage`)
  await client.waitForNetworkIdle()
  const starts = await client.$$('.timetable button'); await starts[Math.floor(starts.length / 3)]?.click(); await client.waitForSelector('#client-name')
  await client.type('#client-name', 'Dr Nandini Bhowmik'); await client.type('#client-email', 'n.bhowmik@lakeview.example'); await client.click('.booking-form input[type=radio]'); await client.type('#question-happened', 'A psalter fell into the font.'); await client.click('.booking-form [type=submit]')
  await client.waitForSelector('.numbers', { timeout: 8000 }).catch(() => {})
  await new Promise(r => setTimeout(r, 25_000))
  await context.db.execute(sql`update trail set at = now() where false`)
  await context.db.execute(sql`insert into trail (workspace_id, session_id, code, values, at) select s.workspace_id, s.id, 'titleFailed', '{"fault":"There is no field “nope”: write {{ client.name }} or {{ eventType.name }}"}'::jsonb, now() from sessions s where s.ends_at > now() + interval '1 day' and not cancelled order by s.starts_at limit 1`)
  await context.db.execute(sql`update deliveries set state = 'unknown', fault = 'the application stopped while sending' where id in (select d.id from deliveries d join bookings b on b.id = d.booking_id join sessions s on s.id = b.session_id where s.starts_at > now() + interval '2 days' and d.audience = 'client' limit 1)`)
  const desk = await page()
  await desk.goto(`${app}/desk/sign-in`); await desk.waitForSelector('#email'); await desk.type('#email', people[0]!.email); await desk.type('#password', PASSWORD); await desk.click('[type=submit]')
  await desk.waitForSelector('.day-line'); await shot(desk, 'today-attention')
  await desk.evaluate(() => document.querySelector('.needs-you')?.scrollIntoView()); 
  const href = await desk.evaluate(() => [...document.querySelectorAll('.needs-you a')].map(a => (a as HTMLAnchorElement).href).find(h => h.includes('/sessions/')))
  if (href) { await desk.goto(href); await desk.waitForSelector('.session aside'); await shot(desk, 'session-messages') }
} finally { await close(); await closeContext(context); await inst.stop(); rmSync(folder, { recursive: true, force: true }) }
