import { settingsSchema, type Settings } from '~~/core/event-type/settings'
import type { EventTypeState } from '~~/core/views/desk'

/** An event type being edited: the draft, what is wrong with it by path, and the way back to what is published. */
export function useBenchDraft(published: Settings, state: EventTypeState) {
  const draft = ref<Settings>(structuredClone(published))
  const draftState = ref<EventTypeState>(state)
  /** What cannot be said in the draft itself, such as typed hours that cannot be read. */
  const unread = ref<Record<string, string>>({})

  const checked = computed(() => settingsSchema.safeParse(draft.value))
  const errors = computed<Record<string, string>>(() => ({
    ...Object.fromEntries((checked.value.error?.issues ?? []).map(issue => [issue.path.join('.'), issue.message])),
    ...unread.value,
  }))
  const isSound = computed(() => Object.keys(errors.value).length === 0)

  function changesFrom(base: Settings, baseState: EventTypeState): number {
    const names = Object.keys(base) as (keyof Settings)[]
    return names.filter(name => JSON.stringify(base[name]) !== JSON.stringify(draft.value[name])).length + (baseState === draftState.value ? 0 : 1)
  }

  function setUnread(path: string, message: string | null): void {
    const { [path]: _gone, ...others } = unread.value
    unread.value = message === null ? others : { ...others, [path]: message }
  }

  return { draft, draftState, errors, isSound, changesFrom, setUnread }
}
