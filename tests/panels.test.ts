import { expect, inject, it } from 'vitest'
import type { Definition } from '../core/event-type/definition'
import type { Context } from '../server/context'
import type { Visitor } from './support/browser'
import { useOwner } from './support/owner'
import { fieldValue } from './support/strokes'
import type { TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let owner: Visitor

useOwner(
  {
    hosts: 2,
    hours: 'Mo-Su 09:00-11:00',
    eventTypes: [{ slug: 'talk', settings: { places: [{ key: 'call', kind: 'phoneWeCall', label: '', detail: '' }] } }],
  },
  made => ({ context, workspace, owner } = made),
)

async function benchAddress(): Promise<string> {
  await owner.open(`${app}/desk/event-types`)
  return owner.page.$eval('h2 a', link => (link as HTMLAnchorElement).href)
}

const choose = (label: string, option: string) => owner.choose(label, option)
const field = (label: string, text: string) => () => owner.write(label, text)
const press = (role: string, name: string) => () => owner.press(role, name)

/** What is pressed in the sentence or the head, what is done at the panel that opens, and what they then say. */
const edits: [press: string, says: string | null, doing: (() => Promise<unknown>)[]][] = [
  [
    'Talk',
    'Repair talk',
    [
      field('Name', 'Repair talk'),
      field('In one line, for the list of your workspace', 'What can be mended'),
      field('What clients read on its page', 'Bring **all of it**'),
      press('radio', 'moss'),
    ],
  ],
  ['30 minutes', 'Clients book 30 or 45 minutes', [field('Minutes', '30, 45')]],
  [
    'by phone, we call you',
    'by phone, we call you or at the mill',
    [
      press('button', 'Add another place for clients to choose'),
      () => choose('Kind of place 2', 'at an address'),
      async () => {
        await (await owner.page.waitForSelector('#place-label-place2'))?.type('the mill')
        await (await owner.page.waitForSelector('#place-detail-place2'))?.type('Mill Lane 3')
      },
    ],
  ],
  [
    'one of two hosts, by fair share',
    'one of two hosts, in order',
    [() => choose('How hosts are assigned', 'the first who is free, in this order')],
  ],
  [
    'up to the last moment',
    'at least 2 hours',
    [() => choose('Unit of: At least this long before its start', 'hours'), field('At least this long before its start', '2')],
  ],
  [
    'as far ahead as they like',
    'at most 12 working days ahead',
    [press('radio', 'A number of working days ahead'), field('Working days ahead', '12')],
  ],
  ['every 30 minutes', 'starting every 20 minutes', [field('Clients can start every', '20')]],
  [
    '10 minutes after',
    'with 5 minutes before and 15 minutes after kept free',
    [field('Kept free before', '5'), field('Kept free after', '15')],
  ],
  [
    'limits',
    'at most 2 a day and 5 a week for each host',
    [field('Sessions a day for each host', '2'), field('Sessions a week for each host', '5')],
  ],
  ['seats', 'four seats a session', [field('Seats in a session', '4')]],
  ['approval', 'each one approved by hand', [press('checkbox', 'A host approves each booking by hand')]],
  ['guests', 'without guests', [press('checkbox', 'Clients may bring guests')]],
  ['what happens after booking', null, [field('Text', 'Keep it dry'), field('Title in calendars', 'Talk with {{ client.name }}')]],
  ['Open, listed', 'Open, unlisted', [press('radio', 'Unlisted: only by its link')]],
  ['notes for the team', null, [field('Notes for the team', 'Mind the step')]],
]

it('every part is edited at its panel, told in the sentence, and published as it was set', async () => {
  await owner.open(await benchAddress())
  await owner.press('button', 'and also …')
  for (const [name, says, doing] of edits) {
    await owner.press('button', name)
    for (const item of doing) await item()
    if (says) await owner.sees(says)
    await owner.isAccessible('.bench-panel')
  }
  await owner.sees('21 unpublished changes, saved as your draft')
  await owner.press('button', 'Publish…')
  await owner.sees('Publish 21 changes?')
  await owner.sees('Notes for the team: none → “Mind the step” (clients do not see this)')
  await owner.press('button', 'Publish')
  await owner.sees('Published. Clients see it from now on.')

  const {
    rows: [kept],
  } = await context.db.execute<{ definition: Definition }>(
    `select definition from event_type_versions where workspace_id = '${workspace.id}' and version = 2`,
  )
  expect(kept?.definition).toMatchObject({
    listed: false,
    chairs: [{ policy: 'order' }],
    settings: {
      name: 'Repair talk',
      summary: 'What can be mended',
      description: 'Bring **all of it**',
      colour: '#3D6B4F',
      durations: [30, 45],
      leadTimeMinutes: 120,
      horizon: { kind: 'rollingWorkingDays', days: 12 },
      places: [
        { key: 'call', kind: 'phoneWeCall' },
        { key: 'place2', kind: 'address', label: 'the mill', detail: 'Mill Lane 3' },
      ],
      startEveryMinutes: 20,
      bufferBeforeMinutes: 5,
      bufferAfterMinutes: 15,
      dailyLimit: 2,
      weeklyLimit: 5,
      seats: 4,
      approval: true,
      guests: false,
      afterwards: { text: 'Keep it dry' },
      calendarTitle: 'Talk with {{ client.name }}',
      notes: 'Mind the step',
    },
  })
})

it('what does not fit is told at its field, keeps the last openings in sight, and cannot be published', async () => {
  await owner.open(`${await benchAddress()}?panel=duration`)
  const head = await owner.page.$eval('.bench-head h1', element => element.textContent.trim())
  for (const [press, label, text, told] of [
    [/minutes$/, 'Minutes', '30, 2000', 'Minutes from 1 to 1,440'],
    [/^up to|^at least/, 'At least this long before its start', 'soon', 'Enter a number'],
    [head, 'Name', ' ', 'Required'],
  ] as const) {
    const names = await owner.page.$$eval('.bench-head button, .bench-head .phrase', all => all.map(item => item.textContent.trim()))
    await owner.press('button', names.find(name => (typeof press === 'string' ? name === press : press.test(name))) ?? String(press))
    await owner.write(label, text)
    await owner.sees('Fix the marked part; showing the last valid version.')
    await owner.sees(told)
    expect(
      await (await owner.find('button', 'Publish…')).evaluate(element => (element as HTMLButtonElement).disabled),
      `${label} ${text}`,
    ).toBe(true)
  }
  await owner.press('button', 'Where: How soon before')
  await owner.sees('Enter a number')
  await owner.isAccessible()
  await owner.press('button', 'Discard all')
  await owner.sees(new RegExp(`${head}\\s`))
  expect(await owner.text()).not.toMatch('Fix the marked part')
  expect(await fieldValue(owner, 'At least this long before its start')).toMatch(/^\d/)

  await owner.press('button', 'and also …')
  await owner.press('button', 'what happens after booking')
  await owner.write('Title in calendars', 'For {{ client.nmae }}')
  await owner.press('button', 'Publish…')
  await owner.press('button', 'Publish')
  await owner.sees('There is no field “client.nmae”')
  await owner.press('button', 'Keep editing')
  await owner.sees('There is no field “client.nmae”')
  await owner.press('button', 'Discard all')
})
