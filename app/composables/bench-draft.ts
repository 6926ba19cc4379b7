import { formatInputFault } from '~~/core/catalogue/input'
import { type Definition, definitionSchema } from '~~/core/event-type/definition'
import { changesBetween } from '~~/core/event-type/changes'
import type { Settings } from '~~/core/event-type/settings'
import { inputFaults } from '~~/core/validation'

/** What is typed into one field without a longer pause is one step back. */
const ONE_STEP_MS = 900
const MOST_STEPS = 200

/** An event type being edited: the draft, what is wrong with it by path, and the way back, step by step or altogether. */
export function useBenchDraft(published: Definition, initial: Definition = published, locale: () => string = () => 'en-GB') {
  const draft = shallowRef<Definition>(initial)
  const past = shallowRef<Definition[]>([])
  const future = shallowRef<Definition[]>([])
  /** What cannot be said in the draft itself, such as typed hours that cannot be read. */
  const unread = ref<Record<string, string>>({})
  /** What the server refused, until something is changed. */
  const refused = ref<Record<string, string>>({})
  /** Counts how often what was typed and could not be read was thrown away: fields then begin anew. */
  const fresh = ref(0)
  let last = { what: '', at: 0 }

  /** Changes the draft; `what` names the part, so that typing into one field is one step. */
  function change(next: Definition, what: string): void {
    const now = Date.now()
    const field =
      document.activeElement instanceof HTMLInputElement || document.activeElement instanceof HTMLTextAreaElement
        ? document.activeElement.id
        : ''
    const sameStep = field !== '' && last.what === `${what} ${field}` && now - last.at < ONE_STEP_MS && past.value.length > 0
    last = { what: `${what} ${field}`, at: now }
    refused.value = {}
    if (!sameStep) past.value = [...past.value.slice(1 - MOST_STEPS), draft.value]
    future.value = []
    draft.value = next
  }

  function changeSettings(settings: Settings): void {
    const what = Object.keys(settings).filter(name => Reflect.get(settings, name) !== Reflect.get(draft.value.settings, name)).join(' ')
    change({ ...draft.value, settings }, what)
  }

  /** Throws away what could not be read; false where there was nothing of it. */
  function dropUnread(): boolean {
    if (Object.keys(unread.value).length === 0) return false
    unread.value = {}
    fresh.value++
    return true
  }

  function step(from: typeof past, to: typeof past): boolean {
    const next = from.value.at(-1)
    if (!next) return false
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, draft.value]
    draft.value = next
    dropUnread()
    last = { what: '', at: 0 }
    return true
  }

  function discard(): void {
    dropUnread()
    change(published, 'discard')
  }

  const errors = computed<Record<string, string>>(() => ({
    ...Object.fromEntries(
      inputFaults(definitionSchema.safeParse(draft.value).error, draft.value).map(fault => [
        fault.path.replace(/^settings\./, ''),
        formatInputFault(fault),
      ]),
    ),
    ...unread.value,
  }))
  const isSound = computed(() => Object.keys(errors.value).length === 0)
  const changes = computed(() => (isSound.value ? changesBetween(published, draft.value, locale()) : []))

  function setUnread(path: string, message: string | null): void {
    const { [path]: _gone, ...others } = unread.value
    unread.value = message === null ? others : { ...others, [path]: message }
  }

  return {
    draft, isSound, changes, change,
    errors: computed(() => ({ ...errors.value, ...refused.value })),
    refuse: (faults: Record<string, string>) => (refused.value = faults),
    changeSettings, setUnread, dropUnread, discard, fresh,
    undo: () => dropUnread() || step(past, future),
    redo: () => step(future, past),
    canUndo: computed(() => past.value.length > 0 || Object.keys(unread.value).length > 0),
    canRedo: computed(() => future.value.length > 0),
  }
}
export type BenchDraft = ReturnType<typeof useBenchDraft>
