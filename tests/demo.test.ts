import { expect, inject, it } from 'vitest'
import { DAY, formatDate, instantToSeconds } from '../core/time/civil'
import { formatDuration } from '../core/time/format'
import { zoneOf } from '../core/time/zone'
import type { SentBench } from '../core/views/event-types'
import { PASSWORD, people, workspace as demo } from '../demo/people'
import { useBrowser, type Visitor } from './support/browser'
import { call } from './support/http'

const app = inject('app')
const arrive = useBrowser()

const cookieOf = async (visitor: Visitor) => (await visitor.page.cookies()).map(({ name, value }) => `${name}=${value}`).join('; ')

it('the bench of each event type of the demo shows what its clients see', async () => {
  const zone = demo.timeZone
  const member = await arrive(zone)
  const first = people[0]
  if (!first) throw new Error('Nobody is there')
  await member.signIn(first.email, PASSWORD)
  await member.open(`${app}/desk/event-types`)
  const benches = await member.page.$$eval('h2 a', all => all.map(item => (item as HTMLAnchorElement).href))
  expect(benches).toHaveLength(6)
  let found = 0
  for (const href of benches) {
    await member.open(href)
    await member.sees('openings in the next 7 days')
    const bench: SentBench = (await call(`${app}/api/desk/event-types/${href.split('/').at(-1)}`, { headers: { cookie: await cookieOf(member) } })).body
    const path = new URL(bench.page).pathname
    const { durations } = bench.definition.settings
    for (const duration of durations) {
      if (durations.length > 1) await member.choose('Duration', formatDuration(duration))
      const today = zoneOf(zone).dayOf(Math.floor(Date.now() / 1000))
      const query = new URLSearchParams({
        from: formatDate(today),
        to: formatDate(today + 13),
        timeZone: zone,
        duration: String(duration),
      })
      // The bench stands at the moment it was opened: what became too soon since then is left aside.
      const settled = (starts: number[]) => starts.filter(start => start > Math.floor(Date.now() / 1000) + 2 * DAY + 600)
      const expected = settled(
        (await call(`${app}/api/public${path}/openings?${query}`)).body.openings.map((opening: { start: string }) =>
          instantToSeconds(opening.start),
        ),
      )
      await expect
        .poll(
          async () =>
            settled(
              await member.page.$$eval('.consequences table button[data-at]:not(.nothing)', all =>
                all.map(item => Number((item as HTMLElement).dataset['at'])),
              ),
            ),
          { message: `${path} ${duration}` },
        )
        .toEqual(expected)
      found += expected.length
    }
  }
  expect(found).toBeGreaterThan(300)
  await member.leave()
})
