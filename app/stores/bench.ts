import { defineStore } from 'pinia'
import type { Finding } from '~~/core/checks'
import { benchQuery } from '~~/core/event-type/bench-query'
import type { Consequences } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'
import { sentenceOf } from '~~/core/event-type/sentence'
import type { HolidayDates } from '~~/core/hours/plan'
import { DAY, formatInstant } from '~~/core/time/civil'
import type { BenchView } from '~~/core/views/desk'
import { type BenchDraft, useBenchDraft } from '~/composables/bench-draft'
import { useDesk } from './desk'

/** How far ahead openings are computed while editing, and how far of it a saved case reaches. */
export const COMPUTED_DAYS = 56
const CASE_DAYS = 14

/** The event type on the bench: what is published, the draft, and what the draft means. */
export const useBench = defineStore('bench', () => {
  const desk = useDesk()
  const view = shallowRef<BenchView | null>(null)
  const edited = shallowRef<BenchDraft | null>(null)
  const holidays = shallowRef<HolidayDates>({})
  const before = shallowRef<Consequences | null>(null)
  const after = shallowRef<Consequences | null>(null)
  const findings = shallowRef<Finding[] | null>(null)
  /** The duration whose openings are shown, in minutes. */
  const duration = ref(30)

  const draft = computed(() => edited.value?.draft.value ?? null)
  const errors = computed(() => edited.value?.errors.value ?? {})
  const isSound = computed(() => edited.value?.isSound.value ?? true)
  const changes = computed(() => edited.value?.changes.value ?? [])
  const isChanged = computed(() => changes.value.length > 0 || !isSound.value)
  const hosts = computed(() => view.value?.hosts ?? [])
  /** The host that the member is, if any. */
  const ownHost = computed(() => hosts.value.find(host => host.own)?.id ?? null)
  const now = computed(() => view.value?.now ?? desk.now)

  let lastPhrases: ReturnType<typeof sentenceOf> = []
  const phrases = computed(() => {
    if (draft.value && isSound.value) lastPhrases = sentenceOf(draft.value.settings, draft.value.chairs, desk.locale)
    return lastPhrases
  })

  function open(loaded: BenchView): void {
    view.value = loaded
    holidays.value = loaded.holidays
    duration.value = loaded.definition.settings.durations[0] ?? 30
    edited.value = useBenchDraft(loaded.definition, loaded.draft?.definition, () => desk.locale)
  }

  /** Nothing of one event type is shown while the next is loaded. */
  function close(): void {
    view.value = edited.value = before.value = after.value = findings.value = null
  }

  const span = () => ({ from: now.value, to: now.value + COMPUTED_DAYS * DAY, durationMinutes: duration.value })

  /** What the engine is asked for the next two weeks, with instants to be explained. */
  function caseQuery(definition: Definition, instants?: string[]) {
    return benchQuery(
      definition,
      { time: view.value?.time ?? [], holidays: holidays.value, now: formatInstant(now.value) },
      { ...span(), to: now.value + CASE_DAYS * DAY, ...(instants ? { explain: instants } : {}) },
    )
  }

  return {
    view, edited, holidays, before, after, findings, duration,
    draft, errors, isSound, changes, isChanged, hosts, ownHost, now, phrases,
    open, close, span, caseQuery,
  }
})
