import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { sampleDefinition } from '~~/core/event-type/samples'
import { useKeptDraft } from './kept-draft'

/** Requests in the order they were sent; each is answered when the test says so. */
let sent: { what: string, name: string | undefined, answer: (failed?: boolean) => Promise<void> }[]
let kept: ReturnType<typeof useKeptDraft>
let leave: () => void

beforeEach(() => {
  vi.useFakeTimers()
  sent = []
  vi.stubGlobal('ref', ref)
  vi.stubGlobal('window', { addEventListener: vi.fn(), removeEventListener: vi.fn() })
  vi.stubGlobal('onMounted', (run: () => void) => run())
  vi.stubGlobal('onBeforeUnmount', (run: () => void) => (leave = run))
  vi.stubGlobal('$fetch', (_path: string, options: { method: string, body?: { definition: ReturnType<typeof sampleDefinition> } }) => new Promise<void>((resolve, reject) => {
    sent.push({
      what: options.method,
      name: options.body?.definition.settings.name,
      answer: async (failed = false) => {
        if (failed) reject(new Error('no answer'))
        else resolve()
        await vi.advanceTimersByTimeAsync(0)
      },
    })
  }))
  kept = useKeptDraft('id')
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const keep = (name: string) => kept.keep(1, sampleDefinition({ name }))
const asked = () => sent.map(one => [one.what, one.name].filter(Boolean).join(' '))
const pass = (milliseconds: number) => vi.advanceTimersByTimeAsync(milliseconds)

it('keeps what has rested for a moment, and only the last of it', async () => {
  keep('A')
  await pass(500)
  keep('AB')
  expect(kept.state.value).toBe('waiting')
  await pass(800)
  expect(asked()).toEqual(['PUT AB'])
  await sent[0]?.answer()
  expect(kept.state.value).toBe('kept')
})

it('lets nothing overtake what is on its way', async () => {
  keep('A')
  await pass(800)
  keep('AB')
  let published = false
  void kept.send().then(() => (published = true))
  const dropped = kept.drop()
  await pass(0)
  expect(asked()).toEqual(['PUT A'])
  await sent[0]?.answer()
  expect(asked(), 'what waited was dropped before its turn').toEqual(['PUT A', 'DELETE'])
  expect(published).toBe(true)
  await sent[1]?.answer()
  await dropped
  expect(kept.state.value).toBe('kept')
})

it('tries again where no answer came, with the newest', async () => {
  keep('A')
  await pass(800)
  await sent[0]?.answer(true)
  expect(kept.state.value).toBe('failed')
  await pass(5000)
  expect(asked()).toEqual(['PUT A', 'PUT A'])
  keep('AB')
  await sent[1]?.answer(true)
  await pass(5000)
  expect(asked().at(-1)).toBe('PUT AB')
})

it('does not take up again what failed after it was forgotten', async () => {
  keep('A')
  await pass(800)
  kept.forget()
  await sent[0]?.answer(true)
  await pass(60_000)
  expect(asked()).toEqual(['PUT A'])
  expect(kept.state.value).toBe('kept')
})

it('sends what waits when the page is left', async () => {
  keep('A')
  leave()
  await pass(0)
  expect(asked()).toEqual(['PUT A'])
})
