import { expect, inject, it } from 'vitest'
import type { Visitor } from './support/browser'
import { inbox } from './support/http'
import { useOwner } from './support/owner'
import type { TestWorkspace } from './support/workspace'

const app = inject('app')
let workspace: TestWorkspace
let owner: Visitor

useOwner(
  { hosts: 1, eventTypes: [{ slug: 'talk', settings: { name: 'Talk', questions: [{ key: 'wet', kind: 'yesNo', label: 'Is it wet?', required: false }] } }] },
  made => ({ workspace, owner } = made),
)

const type = async (field: string, words: string) => {
  await (await owner.find('textbox', field)).click()
  await owner.page.keyboard.down('Control')
  await owner.page.keyboard.press('End')
  await owner.page.keyboard.up('Control')
  await owner.page.keyboard.type(words)
}

it('a message is worded beside its preview, with faults by line, sent to oneself, saved, and taken back', async () => {
  await owner.open(`${app}/desk/messages`)
  await owner.sees('All of them in the standard words.')
  await owner.isAccessible()
  await owner.choose('Messages of', 'Talk')
  await owner.sees('What is sent for Talk')
  await owner.press('link', 'The confirmation, to the client and guests')
  await owner.sees('To the client and guests, by mail')

  await type('Text', '\nBring {{ answers.wett }}')
  await owner.sees(/Line \d+:\s+There is no field “answers.wett”. Did you mean {{ answers.wet }}\?/)
  await owner.sees('The standard words are shown until this is mended.')
  await owner.press('button', 'Discard changes')
  await type('Text', ' for ')
  await owner.press('button', 'client.firstName')
  await owner.sees(/for\s+Ines/)
  await owner.press('button', 'right to left')
  await owner.sees('ליאת')
  await owner.press('button', 'Send this to me')
  await owner.sees(`Sent to ${workspace.owner.email}.`)
  expect((await inbox(workspace.owner.email)).map(({ subject }) => subject)).toContainEqual(expect.stringMatching(/^Test: Talk/))
  // What is typed stays while other messages are looked at.
  await owner.press('link', 'The new time, to the client and guests')
  await owner.sees('has moved')
  await owner.press('link', 'The confirmation, to the client and guests')
  await owner.sees('Discard changes')
  await owner.press('button', 'Save')
  await owner.sees('Saved: the confirmation.')
  await owner.sees('As for all event types, but for 1.')
  await owner.isAccessible()
  await owner.press('button', 'Back to the standard words')
  await owner.sees('As for all event types.')
  await owner.press('button', 'Earlier versions')
  await owner.press('button', 'Use these words')
  await owner.sees(/for\s+ליאת/)
  await owner.press('button', 'Discard changes')
})

it('a message of one’s own is added, found on the time line, changed and removed', async () => {
  await owner.open(`${app}/desk/messages`)
  await owner.press('button', 'Add a message')
  await owner.press('button', 'Add')
  await owner.sees('Enter a name')
  await owner.write('Name', 'Care advice')
  await owner.isAccessible('.own')
  await owner.press('button', 'Add')
  await owner.sees(/2 hours after\s+The client gets\s+Care advice/)
  await owner.sees('Thank you for coming to')
  await owner.press('button', 'Change or remove')
  await owner.choose('For whom', 'Only those marked as attended')
  await owner.press('button', 'Save changes')
  await owner.sees('2 hours after, if they came')
  await owner.press('button', 'Change or remove')
  await owner.press('button', 'Remove this message')
  await owner.sees('Removed: Care advice.')
})
