import autocannon from 'autocannon'
import type { AccountView } from '../../core/views/calendars'
import type { Context } from '../../server/context'
import { copperplateCalendar } from '../../tests/support/calendars'
import { call, post, signIn } from '../../tests/support/http'
import { makeWorkspace } from '../../tests/support/workspace'
import type { Installation } from '../run/installation'
import { largeCalendar } from './calendar'

/** How long the first look at a large calendar takes over CalDAV, the next one without changes, and what clients notice of it. */

const PAGE = '/fernhollow/damage-triage'
const SECONDS = 8
/** Pages a second: as many as a busy installation serves, and not all that the machine can. */
const RATE = 100

export async function measureSync({ places }: Installation, context: Context, print: (text: string) => void): Promise<void> {
  const [url, copperplate] = [`http://127.0.0.1:${places.appPort}`, `http://127.0.0.1:${places.copperplatePort}`]
  const objects = largeCalendar()
  const makeCalendar = async (user: string) => {
    const calendar = await copperplateCalendar(copperplate, user)
    const text = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${objects.join('')}END:VCALENDAR\r\n`
    await fetch(`${copperplate}/accounts/${user}/work/import`, { method: 'POST', redirect: 'manual', body: text })
    return calendar
  }
  const connectTo = async (calendar: Awaited<ReturnType<typeof makeCalendar>>) => {
    const workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [] })
    const headers = await signIn(url, workspace.owner)
    const { address, user, password } = calendar
    const begun = performance.now()
    const { status, body } = await post(`${url}/api/desk/calendar-accounts`, { kind: 'caldav', hostId: workspace.hosts[0]?.id, address, user, password }, headers)
    if (status !== 201) throw new Error(`Connecting answered ${status}`)
    return { ms: performance.now() - begun, account: body as AccountView, headers }
  }

  const first = await connectTo(await makeCalendar('large-1'))
  print(`First look at ${first.account.calendars[0]?.entries} entries over CalDAV: ${(first.ms / 1000).toFixed(1)} s; goal 10 s ${judge(first.ms <= 10_000)}`)
  const times: number[] = []
  for (let index = 0; index < 20; index++) {
    const begun = performance.now()
    await call(`${url}/api/desk/calendar-accounts/${first.account.id}/look`, { method: 'POST', headers: first.headers })
    times.push(performance.now() - begun)
  }
  times.sort((a, b) => a - b)
  const median = times[10] ?? NaN
  print(`The next look, without changes: median ${median.toFixed(0)} ms; goal 200 ms ${judge(median <= 200)}`)

  const calendar = await makeCalendar('large-2')
  const slowest = async () => (await autocannon({ url: url + PAGE, connections: 5, overallRate: RATE, duration: SECONDS })).latency.p99
  await slowest()
  const quiet = await slowest()
  const looking = connectTo(calendar)
  const meanwhile = await slowest()
  const { ms } = await looking
  print(`The page's slowest answer (p99) while such a first look runs (${(ms / 1000).toFixed(1)} s): ${meanwhile} ms, without it ${quiet} ms; goal twice as long ${judge(meanwhile <= 2 * quiet)}`)
}

function judge(isMet: boolean): string {
  return isMet ? 'met' : 'MISSED'
}
