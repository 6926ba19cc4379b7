import { randomUUID } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { DAY } from '../core/time/civil'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { useBrowser, type Visitor } from './support/browser'
import { at, fieldValue, paint, stroke } from './support/strokes'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
const arrive = useBrowser()
let context: Context
let workspace: TestWorkspace
let visitor: Visitor

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 1, hours: 'Mo-Su 09:00-11:00', eventTypes: [{ slug: 'talk' }] })
  visitor = await arrive('Europe/Lisbon')
  await visitor.signIn(workspace.owner.email, workspace.owner.password)
})
afterAll(async () => {
  await visitor.leave()
  await closeContext(context)
})

it('hours are painted, given a holiday of two weeks on the year strip, saved, written to a file and read back', async () => {
  await visitor.open(`${app}/desk/hours`)
  await visitor.press('link', 'Host 0')
  await visitor.sees('Used by')
  await visitor.isAccessible()
  await paint(visitor, 'Sunday', at(9), at(10.9))
  await expect.poll(() => fieldValue(visitor, 'Hours of the week')).toBe('Mo-Sa 09:00-11:00')
  await paint(visitor, 'Sunday', at(13), at(14.9), 'finger')
  await expect.poll(() => fieldValue(visitor, 'Hours of the week')).toBe('Mo-Sa 09:00-11:00; Su 13:00-15:00')
  await visitor.press('button', 'Add a recurring window')
  await visitor.sees(/every other Thursday: next/i)
  await visitor.press('button', 'Add this window')
  await visitor.sees(/every other Thursday, 14:00–16:00/i)

  // Within a month, so that both days stand in one row.
  const today = Math.floor(Date.now() / 1000 / DAY)
  const month = new Date((today + 32) * DAY * 1000)
  const day = (date: number) => Date.UTC(month.getUTCFullYear(), month.getUTCMonth(), date) / 1000 / DAY
  const cell = (date: number) => visitor.page.$eval(`[data-day="${day(date)}"]`, (one) => {
    one.scrollIntoView({ block: 'center' })
    const { x, y, width, height } = one.getBoundingClientRect()
    return { x: x + width / 2, y: y + height / 2 }
  })
  for (const [first, last, by] of [[5, 18, 'mouse'], [21, 22, 'finger']] as const) {
    await stroke(visitor, await cell(first), await cell(last), by)
    await visitor.press('button', 'Closed')
    await visitor.sees(new RegExp(`\\w{3} ${first} \\w+ to \\w{3} ${last} \\w+: closed`))
  }
  await visitor.press('button', 'Save')
  await visitor.sees('Saved. Clients see it from now on.')
  const { rows } = await context.db.execute<{ plan: { exceptions: unknown[] } }>(`select plan from hours_plans where host_id = '${workspace.hosts[0]?.id}'`)
  expect(rows[0]?.plan.exceptions).toHaveLength(16)

  const saved = await visitor.saves(() => visitor.press('button', 'Save as a calendar file'), '.ics')
  expect(saved).toContain('BEGIN:VAVAILABILITY')
  const file = join(inject('folder'), `${randomUUID()}.ics`)
  const upload = async (path: string) => (await visitor.page.$('input[type="file"]') as ElementHandle<HTMLInputElement> | null)?.uploadFile(path)
  writeFileSync(file, saved.replace(/EXDATE.*\r\n/g, ''))
  await upload(file)
  await visitor.sees('clients see nothing of it yet')
  await visitor.sees('Drag over days to close them')
  expect(await visitor.text()).not.toMatch(/\w{3} 5 \w+ to \w{3} 18 \w+: closed/)
  writeFileSync(file, 'BEGIN:NOTHING')
  await upload(file)
  await visitor.sees('This is not an iCalendar file')
  visitor.page.once('dialog', dialog => void dialog.accept())
})
