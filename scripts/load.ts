import { readFileSync, mkdtempSync } from 'node:fs'
import { parseArgs } from 'node:util'
import { DAY, formatDate } from '../core/time/civil'
import { closeContext, makeContext } from '../server/start'
import { callTable } from '../server/http/calls'
import { fillWorkspace, WIDE_SLUG } from './load/fill'
import { launchBrowser } from './run/browser'
import { type Installation, removeInstallation, startInstallation } from './run/installation'
import { log } from './run/report'

/**
 * A workspace as large as they get, and how quick everything in it is: every desk call, every screen and the openings of a
 * pool of all hosts, slowest first. `npm run load -- --hosts 200 --event-types 80 --sessions 100000`. A goal that is missed
 * fails nothing.
 */

const { values } = parseArgs({
  options: { 'hosts': { type: 'string' }, 'event-types': { type: 'string' }, 'sessions': { type: 'string' } },
})
const size = {
  hosts: Number(values.hosts ?? 200), eventTypes: Number(values['event-types'] ?? 80), sessions: Number(values.sessions ?? 100_000),
}

const [CALL_GOAL, PAINT_GOAL, OPENINGS_GOAL, MEMORY_GOAL] = [100, 1500, 150, 400]
const CALL_RUNS = 200
const FILE_RUNS = 20
/** Calls before those that count: the first ones of a process are slower, as it has yet to compile what they run. */
const WARM_UP = 10
const PAINT_RUNS = 20
/** Times are taken anew, at most so often, when the host of a virtual machine gave more of the processor time wanted here to others. */
const [MOST_WITHHELD, REPEATS] = [0.01, 5]
const REQUESTS_A_SECOND = 10
const OPENINGS_SECONDS = 20

/** Calls that read, with what their queries need; those about single things that a workspace like this has none of are left out. */
const queries: Record<string, string[]> = {
  'GET /api/desk/today': ['timeZone=Europe/Lisbon'],
  'GET /api/desk/sessions': [
    'timeZone=Europe/Lisbon', 'timeZone=Europe/Lisbon&when=past&page=40', 'timeZone=Europe/Lisbon&when=past&search=client17.3',
    'timeZone=Europe/Lisbon&when=past&state=cancelled',
  ],
  'GET /api/desk/rotation': ['days=90', 'days=365', 'days=90&page=10'],
  'GET /api/desk/holidays/dates': ['country=PT'],
  'GET /api/desk/clients': ['search=client17.3', 'search=client'],
  'GET /api/desk/openings': [`eventType={eventTypes}&timeZone=UTC&from=${dateIn(0)}&to=${dateIn(14)}`],
  'GET /api/desk/event-types': ['clock=24'],
  'GET /api/desk/event-types/{id}/time': ['hosts={hosts}'],
  'GET /api/desk/hosts/{id}/taken': [`from=${Math.floor(Date.now() / 1000)}&to=${Math.floor(Date.now() / 1000) + DAY}`],
}
function dateIn(days: number): string {
  return formatDate(Math.floor(Date.now() / 1000 / DAY) + days)
}

const leftOut = /video-services|calendar-servers|calendar-discovery|\/invitation$|openapi/
/** Calls that answer with a whole file, however large that is. */
const files = /\/ledger$/

const folder = mkdtempSync('/var/tmp/temporia-load-')
const installation = await startInstallation(folder, { throwAway: true, firstPort: 5410, more: { READS_PER_MINUTE: '1000000' } })
const context = await makeContext(installation.environment)
const url = `http://127.0.0.1:${installation.places.appPort}`
const print = (text: string) => process.stdout.write(`${text}\n`)

try {
  log(`Filling a workspace: ${size.hosts} hosts, ${size.eventTypes} event types, ${size.sessions} sessions`)
  const workspace = await fillWorkspace(context, size)
  log('Filled')
  const cookie = await signIn(workspace.owner)
  const ids = await findIds(workspace.id, workspace.hosts[0]?.id ?? '')
  const today = Math.floor(Date.now() / 1000 / DAY)

  print(`\nDesk calls, ${CALL_RUNS} runs each, p95, once warm; goal ${CALL_GOAL} ms`)
  const calls = await measureCalls(cookie, ids)
  report(new Map([...calls].filter(([name]) => !files.test(name))), CALL_GOAL)
  print(`\nWhole files, ${FILE_RUNS} runs each, p95`)
  report(new Map([...calls].filter(([name]) => files.test(name))))

  print(`\nMemory of the process after that: ${memoryOf(installation).toFixed(0)} MB at most`)

  print(`\nScreens until their first useful paint, ${PAINT_RUNS} runs each, p95; goal ${PAINT_GOAL} ms`)
  report(await measureScreens(workspace.owner, workspace.slug, ids), PAINT_GOAL)

  const path = `/api/public/${workspace.slug}/${WIDE_SLUG}/openings?from=${formatDate(today)}&to=${formatDate(today + 60)}&timeZone=Europe/Lisbon`
  const times = await undisturbed('openings', () => measureOpenings(url + path))
  print(`\nOpenings of ${size.hosts} hosts over 60 days at ${REQUESTS_A_SECOND} requests a second: p95 ${p95(times).toFixed(0)} ms; goal ${OPENINGS_GOAL} ms ${judge(p95(times) <= OPENINGS_GOAL)}`)
  const memory = memoryOf(installation)
  print(`Memory of the process: ${memory.toFixed(0)} MB at most; goal ${MEMORY_GOAL} MB ${judge(memory <= MEMORY_GOAL)}`)
} finally {
  await closeContext(context)
  await installation.stop()
  await removeInstallation(folder)
}

/** What the processors did since the machine started, and what its host gave to others while something here wanted to run, in ticks. */
function readTicks(): { all: number, withheld: number } {
  const [, user = 0, nice = 0, system = 0, , , irq = 0, softIrq = 0, steal = 0] = (readFileSync('/proc/stat', 'utf8').split('\n')[0] ?? '')
    .split(/\s+/).map(Number)
  return { all: user + nice + system + irq + softIrq + steal, withheld: steal }
}

/**
 * Times from a virtual machine that its host held up meanwhile say little about the application: they are taken anew, a few
 * times at most. Resolves to the last ones.
 */
async function undisturbed(name: string, measure: () => Promise<number[]>): Promise<number[]> {
  for (let left = REPEATS; ; left--) {
    const before = readTicks()
    const times = await measure()
    const after = readTicks()
    const share = (after.withheld - before.withheld) / Math.max(after.all - before.all, 1)
    if (share <= MOST_WITHHELD) return times
    print(`  ${name}: the machine's host withheld ${(share * 100).toFixed(0)} % of the processor time, ${left > 0 ? 'measured again' : 'in all runs'}`)
    if (left === 0) return times
  }
}

type Ids = Record<string, string>

async function signIn(who: { email: string, password: string }): Promise<string> {
  const response = await fetch(`${url}/api/desk/sign-in`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(who) })
  return response.headers.getSetCookie().findLast(text => /^temporia=[^;]/.test(text))?.split(';')[0] ?? ''
}

/** What stands in the addresses of calls and screens: the widest event type, a host and a session of theirs, and so on. */
async function findIds(workspaceId: string, host: string): Promise<Ids> {
  const { rows: [row] } = await context.pool.query<Ids>(`select
    (select id from event_types where workspace_id = $1 and slug = $2) as "eventTypes",
    (select id from hours_plans where workspace_id = $1 and host_id = $3) as hours,
    (select s.id from sessions s join session_hosts h on h.workspace_id = s.workspace_id and h.session_id = s.id
      where s.workspace_id = $1 and h.host_id = $3 and s.starts_at > now() limit 1) as sessions,
    (select id from host_groups where workspace_id = $1 limit 1) as rotation`, [workspaceId, WIDE_SLUG, host])
  return { ...row, hosts: host }
}

async function measureCalls(cookie: string, ids: Ids): Promise<Map<string, number[]>> {
  const found = new Map<string, number[]>()
  for (const [name, call] of Object.entries(callTable)) {
    const path = name.replace('GET ', '').replace(/\/(\w[\w-]*)\/\{id\}/, (_, of: string) =>
      `/${of}/${ids[of.replace(/-(\w)/g, (_all, letter: string) => letter.toUpperCase())] ?? '{none}'}`)
    if (!name.startsWith('GET /api/desk/') || !call.right || leftOut.test(name) || path.includes('{')) continue
    for (const wanted of queries[name] ?? ['']) {
      const query = wanted.replace(/\{(\w+)\}/g, (_, of: string) => ids[of] ?? '')
      const full = `${name}${wanted ? ` ${wanted}` : ''}`
      found.set(full, await undisturbed(full, async () => {
        const times: number[] = []
        for (let run = -WARM_UP; run < (files.test(name) ? FILE_RUNS : CALL_RUNS); run++) {
          const startedAt = performance.now()
          const response = await fetch(`${url}${path}?${query}`, { headers: { cookie } })
          await response.arrayBuffer()
          if (run >= 0) times.push(performance.now() - startedAt)
          if (response.status !== 200) throw new Error(`${full}: ${response.status}`)
        }
        return times
      }))
    }
  }
  return found
}

async function measureScreens(owner: { email: string, password: string }, slug: string, ids: Ids): Promise<Map<string, number[]>> {
  const screens: [path: string, selector: string][] = [
    ['/desk', '.day-line, .today, h1'],
    ['/desk/book', '.part'],
    ['/desk/sessions', 'tbody tr'],
    ['/desk/sessions?when=past', 'tbody tr'],
    [`/desk/sessions/${ids['sessions']}`, '.trail li'],
    ['/desk/event-types', 'li, tbody tr, article'],
    [`/desk/event-types/${ids['eventTypes']}`, '.timetable button'],
    ['/desk/people', 'tbody tr'],
    [`/desk/people/${ids['hosts']}`, '.side li'],
    ['/desk/workspace', '.part'],
    [`/desk/rotation/${ids['rotation']}`, '.shares tbody tr'],
    ['/desk/hours', 'tbody tr, li'],
    [`/desk/hours/${ids['hours']}`, 'h1'],
    ['/desk/connections', 'tbody tr'],
    ['/desk/question-sets', 'h1'],
    ['/desk/account', 'h1'],
    [`/${slug}`, 'h1'],
    [`/${slug}/${WIDE_SLUG}`, '.timetable button'],
  ]
  const { browser, close } = await launchBrowser()
  const found = new Map<string, number[]>()
  try {
    const page = await browser.newPage()
    await page.setViewport({ width: 1280, height: 800 })
    await page.goto(`${url}/desk/sign-in`)
    await page.waitForSelector('#email')
    await page.type('#email', owner.email)
    await page.type('#password', owner.password)
    await page.click('[type=submit]')
    await page.waitForSelector('nav a')
    for (const [path, selector] of screens) {
      const name = path.replace(/[0-9a-f]{8}-[0-9a-f-]+/, '…').replace(slug, '{workspace}')
      found.set(name, await undisturbed(name, async () => {
        const times: number[] = []
        for (let run = 0; run < PAINT_RUNS; run++) {
          await page.goto('about:blank')
          const watching = await page.evaluateOnNewDocument(watchForPaint, selector)
          await page.goto(url + path, { waitUntil: 'domcontentloaded' })
          const painted = await page.waitForFunction(() => window.usefulAt, { timeout: 30_000 })
          times.push(await painted.jsonValue() ?? NaN)
          await page.removeScriptToEvaluateOnNewDocument(watching.identifier)
        }
        return times
      }))
    }
  } finally {
    await close()
  }
  return found
}

declare global {
  interface Window {
    /** When what was looked for was first painted, in milliseconds since the page was asked for. */
    usefulAt?: number
  }
}

/** Runs in the page: asking from outside would wait until all the rest is made, too. */
function watchForPaint(selector: string): void {
  const observer = new MutationObserver(() => {
    if (!document.querySelector(selector)) return
    observer.disconnect()
    requestAnimationFrame(() => requestAnimationFrame(() => (window.usefulAt = performance.now())))
  })
  observer.observe(document, { childList: true, subtree: true })
}

/** Requests at a steady pace, however long each takes. */
async function measureOpenings(address: string): Promise<number[]> {
  const times: number[] = []
  const all: Promise<void>[] = []
  for (let index = 0; index < REQUESTS_A_SECOND * OPENINGS_SECONDS; index++) {
    all.push((async () => {
      const startedAt = performance.now()
      const response = await fetch(address)
      await response.arrayBuffer()
      if (response.status !== 200) throw new Error(`Openings: ${response.status}`)
      times.push(performance.now() - startedAt)
    })())
    await new Promise(resolve => setTimeout(resolve, 1000 / REQUESTS_A_SECOND))
  }
  await Promise.all(all)
  return times
}

/** The largest resident set of the application so far, in MB. */
function memoryOf({ app }: Installation): number {
  const status = readFileSync(`/proc/${app().child.pid}/status`, 'utf8')
  return Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? NaN) / 1024
}

function p95(times: readonly number[]): number {
  const sorted = [...times].sort((a, b) => a - b)
  return sorted[Math.ceil(sorted.length * 0.95) - 1] ?? NaN
}

function judge(isMet: boolean): string {
  return isMet ? 'met' : 'MISSED'
}

function report(measured: ReadonlyMap<string, number[]>, goal = Infinity): void {
  for (const [name, times] of [...measured].sort(([, a], [, b]) => p95(b) - p95(a))) {
    print(`  ${p95(times).toFixed(0).padStart(6)} ms  ${name}${p95(times) <= goal ? '' : '  MISSED'}`)
  }
}
