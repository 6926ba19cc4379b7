import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Definition } from '../core/event-type/definition'
import type { Panel } from '../core/event-type/sentence'
import type { Context } from '../server/context'
import { closeContext, makeContext } from '../server/start'
import { useBrowser, type Visitor } from './support/browser'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

const app = inject('app')
const arrive = useBrowser()
let context: Context
let workspace: TestWorkspace
let owner: Visitor

beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 2, hours: 'Mo-Su 09:00-11:00', eventTypes: [{ slug: 'talk', settings: { places: [{ key: 'call', kind: 'phoneWeCall', label: '', detail: '' }] } }] })
  owner = await arrive('Europe/Lisbon')
  await owner.signIn(workspace.owner.email, workspace.owner.password)
})
afterAll(async () => {
  await owner.leave()
  await closeContext(context)
})

const choose = async (label: string, value: string) => (await owner.page.$(`select[aria-label="${label}"]`))?.select(value)
const field = (label: string, text: string) => () => owner.write(label, text)
const press = (role: string, name: string) => () => owner.press(role, name)

/** What is done at a panel, and what the sentence or the head then says. */
const edits: [panel: Panel, says: string | null, doing: (() => Promise<unknown>)[]][] = [
  ['name', 'Repair talk', [field('Name', 'Repair talk'), field('In one line, for the list of your workspace', 'What can be mended'), field('What clients read on its page', 'Bring **all of it**'), press('radio', 'moss')]],
  ['duration', 'Clients book 30 or 45 minutes', [field('Minutes', '30, 45')]],
  ['place', 'by phone, we call you or at the mill', [press('button', 'Let clients choose another place too'), () => choose('Kind of place 2', 'address'), async () => {
    await (await owner.page.waitForSelector('#place-label-place2'))?.type('the mill')
    await (await owner.page.waitForSelector('#place-detail-place2'))?.type('Mill Lane 3')
  }]],
  ['chairs', 'one of two hosts, in order', [press('radio', 'In order*')]],
  ['leadTime', 'at least 2 hours', [() => choose('Unit of: At least this long before its start', 'hours'), field('At least this long before its start', '2')]],
  ['horizon', 'at most 12 working days ahead', [press('radio', 'A number of working days ahead'), field('Working days ahead', '12')]],
  ['startEvery', 'starting every 20 minutes', [field('A start is offered every', '20')]],
  ['buffers', 'with 5 minutes before and 15 minutes after kept free', [field('Kept free before', '5'), field('Kept free after', '15')]],
  ['limits', 'at most 2 a day and 5 a week for each host', [field('Sessions a day for each host', '2'), field('Sessions a week for each host', '5')]],
  ['seats', 'four seats a session', [field('Seats in a session', '4')]],
  ['approval', 'each one approved by hand', [press('checkbox', 'A host approves each booking by hand')]],
  ['guests', 'without guests', [press('checkbox', 'Clients may bring guests')]],
  ['afterwards', null, [field('Text', 'Keep it dry'), field('Title in calendars', 'Talk with {{ client.name }}')]],
  ['address', 'open, unlisted', [press('radio', 'Unlisted: only by its link')]],
  ['team', null, [field('Notes for the team', 'Mind the step')]],
]

it('every part is edited at its panel, told in the sentence, and published as it was set', async () => {
  await owner.open(`${app}/desk/event-types`)
  const bench = await (await owner.find('link', 'Talk')).evaluate(link => (link as HTMLAnchorElement).href)
  for (const [panel, says, doing] of edits) {
    // What was set before is there again each time: it is kept as a draft.
    await owner.open(`${bench}?panel=${panel}`)
    await owner.sees('openings in the next 7 days')
    for (const one of doing) await one()
    if (says) await owner.sees(says)
    await owner.sees('kept as your draft')
    await owner.isAccessible()
  }
  await owner.press('button', 'Publish…')
  await owner.sees('Publish 19 changes?')
  await owner.sees('Notes for the team: none → “Mind the step” (clients do not see this)')
  await owner.press('button', 'Publish')
  await owner.sees('Published. Clients see it from now on.')

  const { rows: [kept] } = await context.db.execute<{ definition: Definition }>(`select definition from event_type_versions where workspace_id = '${workspace.id}' and version = 2`)
  expect(kept?.definition).toMatchObject({
    listed: false,
    chairs: [{ policy: 'order' }],
    settings: {
      name: 'Repair talk', summary: 'What can be mended', description: 'Bring **all of it**', colour: '#3D6B4F', durations: [30, 45], leadTimeMinutes: 120, horizon: { kind: 'rollingWorkingDays', days: 12 },
      places: [{ key: 'call', kind: 'phoneWeCall' }, { key: 'place2', kind: 'address', label: 'the mill', detail: 'Mill Lane 3' }],
      startEveryMinutes: 20, bufferBeforeMinutes: 5, bufferAfterMinutes: 15, dailyLimit: 2, weeklyLimit: 5, seats: 4, approval: true, guests: false,
      afterwards: { text: 'Keep it dry' }, calendarTitle: 'Talk with {{ client.name }}', notes: 'Mind the step',
    },
  })
})

it('what does not fit is told at its field, keeps the last openings in sight, and cannot be published', async () => {
  await owner.open(`${app}/desk/event-types`)
  await owner.press('link', 'Repair talk')
  for (const [panel, label, text, told] of [
    ['duration', 'Minutes', '30, 2000', 'At most'],
    ['leadTime', 'At least this long before its start', 'soon', 'number'],
    ['seats', 'Seats in a session', '0', 'At least 1'],
    ['afterwards', 'Title in calendars', '{{ client.nmae }}', 'nmae'],
    ['name', 'Name', ' ', 'name'],
  ] as const) {
    await owner.open(`${owner.page.url().split('?')[0]}?panel=${panel}`)
    await owner.sees('openings in the next 7 days')
    await owner.write(label, text)
    await owner.sees('Something does not fit yet: shown is the last that did.')
    await owner.sees(told)
    expect(await (await owner.find('button', 'Publish…')).evaluate(one => (one as HTMLButtonElement).disabled), `${label} ${text}`).toBe(true)
    await owner.press('button', 'Discard all')
  }
})
