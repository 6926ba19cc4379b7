import { randomUUID } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { ElementHandle } from 'puppeteer-core'
import { expect, inject, it } from 'vitest'
import type { StoredPlan } from '../core/hours/plan'
import { DAY, formatDate } from '../core/time/civil'
import type { Context } from '../server/context'
import type { Visitor } from './support/browser'
import { useOwner } from './support/owner'
import { at, fieldValue, paint, stroke } from './support/strokes'
import { addMember, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let visitor: Visitor

const arrive = useOwner(
  { hosts: 2, hours: 'Mo-Su 09:00-11:00', eventTypes: [{ slug: 'talk' }] },
  made => ({ context, workspace, owner: visitor } = made),
)

it('hours are painted, given a holiday of two weeks on the year strip, saved, written to a file and read back', async () => {
  await visitor.open(`${app}/desk/hours`)
  await visitor.press('link', 'Host 0')
  await visitor.sees('Used by')
  await visitor.isAccessible()
  await paint(visitor, 'Sunday', at(9), at(10.9))
  await expect.poll(() => fieldValue(visitor, 'Hours of the week')).toBe('Mo-Sa 09:00-11:00')
  await paint(visitor, 'Sunday', at(13), at(14.9), 'finger')
  await expect.poll(() => fieldValue(visitor, 'Hours of the week')).toBe('Mo-Sa 09:00-11:00; Su 13:00-15:00')
  await visitor.press('button', 'Add recurring hours')
  await visitor.sees(/every other Thursday: next/i)
  await visitor.press('button', 'Add these hours')
  await visitor.sees(/every other Thursday, 14:00–16:00/i)

  // Within a month, so that both days stand in one row.
  const today = Math.floor(Date.now() / 1000 / DAY)
  const month = new Date((today + 32) * DAY * 1000)
  const day = (date: number) => Date.UTC(month.getUTCFullYear(), month.getUTCMonth(), date) / 1000 / DAY
  const cell = (date: number) => visitor.page.$eval(`[data-day="${day(date)}"]`, (element) => {
    element.scrollIntoView({ block: 'center' })
    const { x, y, width, height } = element.getBoundingClientRect()
    return { x: x + width / 2, y: y + height / 2 }
  })
  for (const [first, last, by] of [[5, 18, 'mouse'], [21, 22, 'finger']] as const) {
    await stroke(visitor, await cell(first), await cell(last), by)
    await visitor.press('button', 'Closed')
    await visitor.sees(new RegExp(`\\w{3} ${first} \\w+ to \\w{3} ${last} \\w+: closed`))
  }
  await visitor.press('button', 'Save')
  await visitor.sees('Saved. Clients see it from now on.')
  const { rows } = await context.db.execute<{ plan: { exceptions: unknown[] } }>(
    `select plan from hours_plans where host_id = '${workspace.hosts[0]?.id}'`,
  )
  expect(rows[0]?.plan.exceptions).toHaveLength(16)

  const saved = await visitor.saves(() => visitor.press('button', 'Save as a calendar file'), '.ics')
  expect(saved).toContain('BEGIN:VAVAILABILITY')
  const file = join(inject('folder'), `${randomUUID()}.ics`)
  const upload = async (path: string) =>
    ((await visitor.page.$('input[type="file"]')) as ElementHandle<HTMLInputElement> | null)?.uploadFile(path)
  writeFileSync(file, saved.replace(/EXDATE.*\r\n/g, ''))
  await upload(file)
  await visitor.sees('clients do not see it yet')
  await visitor.sees('Drag over days to close them')
  expect(await visitor.text()).not.toMatch(/\w{3} 5 \w+ to \w{3} 18 \w+: closed/)
  writeFileSync(file, 'BEGIN:NOTHING')
  await upload(file)
  await visitor.sees('This is not an iCalendar file')
  visitor.page.once('dialog', dialog => void dialog.accept())
})

it('hours are copied to other days, closed on holidays, kept to dates, and given to single days by keyboard', async () => {
  await visitor.open(`${app}/desk/hours`)
  await visitor.press('link', 'Host 1')
  await visitor.write('Hours of the week', 'Mo 09:00-12:00; Su 10:00-11:00')
  const copy = async (day: string, to: string) => {
    await visitor.press('button', `Copy to…: ${day}`)
    await visitor.press('menuitem', to)
  }
  await copy('Monday', 'Monday to Friday')
  await expect.poll(() => fieldValue(visitor, 'Hours of the week')).toBe('Mo-Fr 09:00-12:00; Su 10:00-11:00')
  await copy('Saturday', 'Sunday')
  await expect.poll(() => fieldValue(visitor, 'Hours of the week')).toBe('Mo-Fr 09:00-12:00')

  await visitor.search('Add the holidays of a country', 'germ', 'Germany')
  await visitor.sees('Germany')
  await expect
    .poll(() =>
      visitor.page.$$eval('.year button', all =>
        all.map(item => item.getAttribute('aria-label')).find(words => words?.includes('25 December')),
      ),
    )
    .toMatch(/25 December, closed for a holiday: \S/)
  await visitor.choose('Region of Germany', 'Bayern')
  await visitor.write('Last date', '2040-06-30')

  const keys = visitor.page.keyboard
  await (await visitor.page.waitForSelector('.year button[tabindex="0"]'))?.focus()
  const day = () => visitor.page.evaluate(() => Number((document.activeElement as HTMLElement).dataset['day']))
  const today = await day()
  await keys.press('ArrowDown')
  await keys.down('Shift')
  await keys.press('ArrowRight')
  await keys.press('ArrowRight')
  await keys.up('Shift')
  expect(await day()).toBe(today + 9)
  await visitor.write('Hours of these days', '14:00-13:00')
  await visitor.press('button', 'Set these hours')
  await visitor.sees('ends before it starts')
  await visitor.write('Hours of these days', '14:00-15:30')
  await visitor.press('button', 'Set these hours')
  await visitor.sees(/\w{3} \d+ \w+ to \w{3} \d+ \w+: 14:00–15:30/)
  await visitor.isAccessible()
  await visitor.press('button', 'Save')
  await visitor.sees('Saved. Clients see it from now on.')
  const {
    rows: [kept],
  } = await context.db.execute<{ plan: StoredPlan }>(`select plan from hours_plans where host_id = '${workspace.hosts[1]?.id}'`)
  expect(kept?.plan).toMatchObject({
    weekly: [{ days: ['MO', 'TU', 'WE', 'TH', 'FR'], from: '09:00', to: '12:00' }],
    valid: { from: null, to: '2040-06-30' },
    holidays: [{ country: 'DE', region: 'BY' }],
  })
  expect(kept?.plan.exceptions).toEqual(
    [7, 8, 9].map(days => ({ date: formatDate(today + days), windows: [{ from: '14:00', to: '15:30' }] })),
  )
})

it('hosts see the hours of all and change their own', async () => {
  const { email, password } = await addMember(context, workspace, 'host', workspace.hosts[0]?.id)
  const host = await arrive('Europe/Lisbon')
  await host.signIn(email, password)
  for (const [name, own] of [['Host 0', true], ['Host 1', false]] as const) {
    await host.open(`${app}/desk/hours`)
    await host.press('link', name)
    await host.sees('Used by')
    expect(await host.page.$$eval('button', all => all.some(item => item.textContent.trim() === 'Save')), name).toBe(own)
    expect(await host.page.$eval('.field input', element => (element as HTMLInputElement).readOnly)).toBe(!own)
    await host.isAccessible()
  }
  await host.leave()
})
