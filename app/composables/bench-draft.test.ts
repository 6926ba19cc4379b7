import { randomUUID } from 'node:crypto'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { computed, ref, shallowRef } from 'vue'
import { sampleDefinition } from '~~/tests/support/samples'
import { useBenchDraft } from './bench-draft'

/** A field that can be typed into. */
class Field {
  constructor(readonly id: string) {}
}

const page: { activeElement: Field | null } = { activeElement: null }

beforeEach(() => {
  vi.useFakeTimers()
  page.activeElement = null
  for (const [name, value] of Object.entries({
    ref,
    shallowRef,
    computed,
    document: page,
    HTMLInputElement: Field,
    HTMLTextAreaElement: Field,
  }))
    vi.stubGlobal(name, value)
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const chairs = [
  { id: randomUUID(), name: 'Host', policy: 'fairShare' as const, hosts: [{ id: randomUUID(), name: 'Ana Reis', weight: 1 }], groups: [] },
]
const definition = (change: Parameters<typeof sampleDefinition>[0] = {}) => sampleDefinition(change, { chairs })
const settings = (change: Parameters<typeof sampleDefinition>[0]) => definition(change).settings
const published = definition()

it('takes what is typed into one field as one step back, and a pause or another field as the next', () => {
  const draft = useBenchDraft(published)
  const type = (field: string, name: string, pause = 100) => {
    vi.advanceTimersByTime(pause)
    page.activeElement = new Field(field)
    draft.changeSettings({ ...draft.draft.value.settings, name })
  }
  for (const name of ['C', 'Ch', 'Chat']) type('name', name)
  type('name', 'Chats', 2000)
  expect(draft.undo()).toBe(true)
  expect(draft.draft.value.settings.name).toBe('Chat')
  draft.undo()
  expect(draft.draft.value).toEqual(published)
  expect(draft.undo(), 'nothing is left to undo').toBe(false)
  draft.redo()
  draft.redo()
  expect(draft.draft.value.settings.name).toBe('Chats')
  expect(draft.canRedo.value).toBe(false)
})

it('forgets what could be done again once something else is changed', () => {
  const draft = useBenchDraft(published)
  draft.changeSettings(settings({ seats: 2 }))
  draft.undo()
  draft.changeSettings(settings({ seats: 3 }))
  expect(draft.canRedo.value).toBe(false)
  expect(draft.changes.value.map(change => change.after)).toEqual(['3 seats'])
})

it('is not sound while something does not fit, cannot be read or was refused, each at its path', () => {
  const draft = useBenchDraft(published)
  draft.changeSettings(settings({}))
  expect(draft.isSound.value).toBe(true)
  draft.change({ ...published, settings: { ...published.settings, seats: 0 } }, 'seats')
  expect(Object.keys(draft.errors.value)).toEqual(['seats'])
  expect(draft.changes.value, 'unsound changes are not told').toEqual([])
  draft.undo()
  draft.setUnread('hours', '“9-” is not hours')
  expect(draft.errors.value).toEqual({ hours: '“9-” is not hours' })
  draft.setUnread('hours', null)
  draft.refuse({ slug: 'This address leads to “Talk”' })
  expect({ sound: draft.isSound.value, errors: draft.errors.value }).toEqual({
    sound: true,
    errors: { slug: 'This address leads to “Talk”' },
  })
  draft.change({ ...published, slug: 'other' }, 'slug')
  expect(draft.errors.value, 'a refusal lasts until something is changed').toEqual({})
})

it('takes back first what could not be read, and lets the fields begin anew', () => {
  const draft = useBenchDraft(published)
  draft.changeSettings(settings({ seats: 2 }))
  draft.setUnread('durations', 'Minutes from 1 to 1,440')
  expect(draft.canUndo.value).toBe(true)
  expect(draft.undo()).toBe(true)
  expect({ errors: draft.errors.value, seats: draft.draft.value.settings.seats, fresh: draft.fresh.value }).toEqual({
    errors: {},
    seats: 2,
    fresh: 1,
  })
  draft.setUnread('durations', 'Minutes from 1 to 1,440')
  draft.discard()
  expect({ errors: draft.errors.value, changes: draft.changes.value, fresh: draft.fresh.value }).toEqual({
    errors: {},
    changes: [],
    fresh: 2,
  })
})

it('begins from what was kept, and compares it with what is published', () => {
  const draft = useBenchDraft(published, definition({ durations: [45] }))
  expect(draft.changes.value.map(change => change.label)).toEqual(['Duration'])
  draft.discard()
  expect(draft.changes.value).toEqual([])
  draft.undo()
  expect(draft.draft.value.settings.durations).toEqual([45])
})
