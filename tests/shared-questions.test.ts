import { expect, inject, it } from 'vitest'
import type { Visitor } from './support/browser'
import { call } from './support/http'
import { useOwner } from './support/owner'
import type { TestWorkspace } from './support/workspace'

const app = inject('app')
let workspace: TestWorkspace
let owner: Visitor

useOwner(
  {
    hosts: 1,
    eventTypes: [
      { slug: 'talk', settings: { name: 'Talk', questions: [{ key: 'wet', kind: 'yesNo', label: 'Is it wet?', required: false }] } },
      { slug: 'review', settings: { name: 'Review' } },
    ],
  },
  made => ({ workspace, owner } = made),
)

const asked = async (slug: string): Promise<string[]> =>
  (await call(`${app}/api/public/${workspace.slug}/${slug}`)).body.eventType.questions.map((question: { label: string }) => question.label)

async function publish(): Promise<void> {
  await owner.press('button', 'Publish…')
  await owner.press('button', 'Publish')
  await owner.sees('Published. Clients see it from now on.')
}

it('an event type’s questions are shared, asked by another one, and changed for both in one place', async () => {
  await owner.open(`${app}/desk/event-types`)
  await owner.press('link', 'Talk')
  await owner.press('button', '1 question')
  await owner.press('button', 'Share these questions with other event types')
  await owner.write('Name of the set', 'Before we meet')
  await owner.press('button', 'Share')
  await owner.sees('The questions are shared as “Before we meet”')
  await owner.isAccessible()
  await publish()
  expect(await asked('talk')).toEqual(['Is it wet?'])

  await owner.open(`${app}/desk/event-types`)
  await owner.press('link', 'Review')
  await owner.press('button', 'and also …')
  await owner.press('button', 'questions')
  await owner.press('checkbox', 'Before we meet')
  await owner.sees('and answer 1 question')
  await publish()

  await owner.press('link', 'Edit Before we meet')
  await owner.sees(/Who asks them\s+Talk\s+Review/)
  await owner.press('button', 'Company')
  await owner.sees('“Company” is asked.')
  await owner.isAccessible()
  await owner.press('button', 'Save')
  await owner.sees('Saved. Clients are asked so from now on.')
  expect([await asked('talk'), await asked('review')]).toEqual([['Is it wet?', 'Company'], ['Is it wet?', 'Company']])
  await owner.press('link', 'All shared questions')
  await owner.sees('Asked by Talk and Review')
  await owner.isAccessible()
})
