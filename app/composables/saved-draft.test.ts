import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { sampleDefinition } from '~~/tests/support/samples'
import { useSavedDraft } from './saved-draft'

/** Requests in the order they were sent; each is answered when the test says so. */
let sent: { what: string, name: string | undefined, answer: (failed?: boolean) => Promise<void> }[]
let draft: ReturnType<typeof useSavedDraft>
let leave: () => void

beforeEach(() => {
  vi.useFakeTimers()
  sent = []
  vi.stubGlobal('ref', ref)
  vi.stubGlobal('window', { addEventListener: vi.fn(), removeEventListener: vi.fn() })
  vi.stubGlobal('onMounted', (run: () => void) => run())
  vi.stubGlobal('onBeforeUnmount', (run: () => void) => (leave = run))
  vi.stubGlobal(
    '$fetch',
    (_path: string, options: { method: string, body?: { definition: ReturnType<typeof sampleDefinition> } }) =>
      new Promise<void>((resolve, reject) => {
        sent.push({
          what: options.method,
          name: options.body?.definition.settings.name,
          answer: async (failed = false) => {
            if (failed) reject(new Error('no answer'))
            else resolve()
            await vi.advanceTimersByTimeAsync(0)
          },
        })
      }),
  )
  draft = useSavedDraft('id')
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const save = (name: string) => draft.save(1, sampleDefinition({ name }))
const asked = () => sent.map(delivery => [delivery.what, delivery.name].filter(Boolean).join(' '))
const pass = (milliseconds: number) => vi.advanceTimersByTimeAsync(milliseconds)

it('saves what has rested for a moment, and only the last of it', async () => {
  save('A')
  await pass(500)
  save('AB')
  expect(draft.state.value).toBe('waiting')
  await pass(800)
  expect(asked()).toEqual(['PUT AB'])
  await sent[0]?.answer()
  expect(draft.state.value).toBe('saved')
})

it('lets nothing overtake what is on its way', async () => {
  save('A')
  await pass(800)
  save('AB')
  let published = false
  void draft.send().then(() => (published = true))
  const dropped = draft.drop()
  await pass(0)
  expect(asked()).toEqual(['PUT A'])
  await sent[0]?.answer()
  expect(asked(), 'what waited was dropped before its turn').toEqual(['PUT A', 'DELETE'])
  expect(published).toBe(true)
  await sent[1]?.answer()
  await dropped
  expect(draft.state.value).toBe('saved')
})

it('tries again where no answer came, with the newest', async () => {
  save('A')
  await pass(800)
  await sent[0]?.answer(true)
  expect(draft.state.value).toBe('failed')
  await pass(5000)
  expect(asked()).toEqual(['PUT A', 'PUT A'])
  save('AB')
  await sent[1]?.answer(true)
  await pass(5000)
  expect(asked().at(-1)).toBe('PUT AB')
})

it('does not take up again what failed after it was forgotten', async () => {
  save('A')
  await pass(800)
  draft.forget()
  await sent[0]?.answer(true)
  await pass(60_000)
  expect(asked()).toEqual(['PUT A'])
  expect(draft.state.value).toBe('saved')
})

it('sends what waits when the page is left', async () => {
  save('A')
  leave()
  await pass(0)
  expect(asked()).toEqual(['PUT A'])
})
