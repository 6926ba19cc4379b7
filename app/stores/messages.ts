import { defineStore } from 'pinia'
import type { OwnMessage } from '~~/core/messages/own'
import type { Wording } from '~~/core/messages/presets'
import type { Variation, WordedMessage } from '~~/core/messages/wording'
import type { MessagePreview, MessagesView, MessageText } from '~~/core/views/messages'
import { useCalls } from '~/composables/calls'
import { problemOf } from '~/composables/problem'

interface Draft {
  wording: Wording
  basedOn: number
}

const isSame = (a: Wording, b: Wording) => a.subject === b.subject && a.text === b.text

/** The messages of the workspace or of one event type, and the one that is being worded. */
export const useMessages = defineStore('messages', () => {
  const view = shallowRef<MessagesView | null>(null)
  const text = shallowRef<MessageText | null>(null)
  const message = shallowRef<WordedMessage | null>(null)
  const preview = shallowRef<MessagePreview | null>(null)
  /** What was typed and not saved, by message. */
  const drafts = ref<Record<string, Draft>>({})
  const isOvertaken = ref(false)
  const booking = ref(0)
  const variation = ref<Variation | null>(null)
  const { fault, act, read } = useCalls()

  const eventType = computed(() => view.value?.eventType?.id ?? null)
  const keyOf = ({ occasion, audience, ownId }: WordedMessage) => `${eventType.value ?? ''} ${occasion} ${ownId ?? audience}`
  const path = computed(() => (message.value ? `/api/desk/messages/${message.value.occasion}/${message.value.ownId ?? message.value.audience}` : ''))
  const query = computed(() => (eventType.value ? { eventType: eventType.value } : {}))

  const wording = computed<Wording | null>(() => {
    const draft = message.value && drafts.value[keyOf(message.value)]
    return draft?.wording ?? text.value?.wording ?? null
  })
  const isChanged = computed(() => message.value !== null && drafts.value[keyOf(message.value)] !== undefined)
  const isUnsaved = (item: WordedMessage) => drafts.value[keyOf(item)] !== undefined

  async function load(id: string | null): Promise<void> {
    view.value = await act(() => $fetch<MessagesView>('/api/desk/messages', { query: id ? { eventType: id } : {} }))
  }

  async function open(item: WordedMessage | null): Promise<void> {
    if (item && message.value && keyOf(item) === keyOf(message.value) && text.value) return
    message.value = item
    text.value = preview.value = null
    isOvertaken.value = false
    await loadText()
  }

  async function loadText(): Promise<void> {
    const asked = path.value
    if (!asked) return
    const found = await act(() => $fetch<MessageText>(asked, { query: query.value }))
    if (asked !== path.value) return
    text.value = found
    await loadPreview()
  }

  function edit(changed: Wording): void {
    if (!message.value || !text.value) return
    const key = keyOf(message.value)
    const { [key]: before, ...others } = drafts.value
    drafts.value = isSame(changed, text.value.wording) ? others
      : { ...others, [key]: { wording: changed, basedOn: before?.basedOn ?? text.value.version } }
  }

  function discard(): void {
    if (!message.value) return
    const { [keyOf(message.value)]: _dropped, ...others } = drafts.value
    drafts.value = others
    isOvertaken.value = false
  }

  let asked = 0
  async function loadPreview(): Promise<void> {
    const shown = wording.value
    const at = path.value
    if (!shown || !at) return
    const number = ++asked
    const body = { eventType: eventType.value, wording: shown, booking: booking.value, variation: variation.value }
    const answer = await read(() => $fetch<MessagePreview>(`${at}/preview`, { method: 'POST', body }))
    if (number === asked && answer) preview.value = answer
  }

  /** Saves what stands there, or with null goes back to what holds without it. */
  async function save(changed: Wording | null): Promise<boolean> {
    if (!message.value || !text.value) return false
    const basedOn = drafts.value[keyOf(message.value)]?.basedOn ?? text.value.version
    fault.value = ''
    try {
      await $fetch(path.value, { method: 'PUT', body: { eventType: eventType.value, wording: changed, basedOn } })
    } catch (error) {
      const { message: said, document } = problemOf(error)
      if (document?.status !== 409) {
        fault.value = said
        return false
      }
      isOvertaken.value = true
      await loadText()
      return false
    }
    discard()
    await Promise.all([load(eventType.value), loadText()])
    return true
  }

  /** What was typed, over what somebody else has saved meanwhile. */
  function keepMine(): void {
    const draft = message.value && drafts.value[keyOf(message.value)]
    if (draft && text.value) draft.basedOn = text.value.version
    isOvertaken.value = false
  }

  const ownPath = '/api/desk/own-messages'
  const add = (definition: OwnMessage) => act(() => $fetch<{ id: string }>(ownPath, { method: 'POST', body: { eventType: eventType.value, definition } }))
  const change = (id: string, basedOn: number, definition: OwnMessage) =>
    act(() => $fetch<{ version: number }>(`${ownPath}/${id}`, { method: 'PUT', body: { basedOn, definition } }))
  const remove = (id: string) => act(() => $fetch<{ removed: boolean }>(`${ownPath}/${id}`, { method: 'DELETE' }))

  const sendTest = () => act(() => $fetch<{ to: string }>(`${path.value}/test`, {
    method: 'POST', body: { eventType: eventType.value, wording: wording.value, booking: booking.value, variation: variation.value },
  }))

  return {
    view, text, message, preview, drafts, isOvertaken, booking, variation, fault, eventType, wording, isChanged,
    isUnsaved, load, open, edit, discard, loadPreview, save, keepMine, add, change, remove, sendTest,
  }
})
