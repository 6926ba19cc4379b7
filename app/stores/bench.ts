import { defineStore } from 'pinia'
import type { Finding } from '~~/core/checks'
import { benchQuery } from '~~/core/event-type/bench-query'
import type { Consequences } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'
import { receiveHostTime, type SentHostTime } from '~~/core/event-type/host-time'
import { sentenceOf } from '~~/core/event-type/sentence'
import { hostIdsOf } from '~~/core/event-type/settings'
import type { HolidayDates } from '~~/core/hours/plan'
import { DAY, formatInstant } from '~~/core/time/civil'
import type { BenchView } from '~~/core/views/event-types'
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
    asked.clear()
    knownHolds.value = new Set([...loaded.definition.settings.holds, ...loaded.draft?.definition.settings.holds ?? []])
    view.value = loaded
    holidays.value = loaded.holidays
    duration.value = loaded.definition.settings.durations[0] ?? 30
    edited.value = useBenchDraft(loaded.definition, loaded.draft?.definition, () => desk.locale)
  }

  /** Nothing of one event type is shown while the next is loaded. */
  function close(): void {
    view.value = edited.value = before.value = after.value = findings.value = null
  }

  /** Hosts of the draft's chairs whose time is not here: not fetched yet, or not for the member to see. */
  const unknown = computed(() => {
    const known = new Set(view.value?.time.map(host => host.id))
    return hostIdsOf(draft.value?.chairs ?? []).filter(id => !known.has(id))
  })
  const asked = new Set<string>()
  /** Fetches the time of hosts who have just been given a chair. Whether anything came. */
  async function loadUnknown(): Promise<boolean> {
    const missing = unknown.value.filter(id => !asked.has(id))
    if (missing.length === 0 || !view.value) return false
    for (const id of missing) asked.add(id)
    const sent = await $fetch<SentHostTime[]>(`/api/desk/event-types/${view.value.id}/time`, {
      query: { hosts: missing.join(','), holds: [...knownHolds.value].join('\n') },
    })
      .catch(() => [])
    const time = receiveHostTime(sent)
    if (view.value && time.length > 0) view.value = { ...view.value, time: [...view.value.time, ...time] }
    return time.length > 0
  }

  /** Hold words whose entries are known: those of the published event type and of its draft, and those asked for since. */
  const knownHolds = shallowRef<ReadonlySet<string>>(new Set())
  /** Fetches all time anew where the draft has hold words that were not asked for. Whether anything came. */
  async function loadHolds(): Promise<boolean> {
    const words = draft.value?.settings.holds ?? []
    if (!view.value || words.every(word => knownHolds.value.has(word))) return false
    knownHolds.value = new Set([...knownHolds.value, ...words])
    const query = { hosts: view.value.time.map(host => host.id).join(','), holds: [...knownHolds.value].join('\n') }
    const sent = await $fetch<SentHostTime[]>(`/api/desk/event-types/${view.value.id}/time`, { query }).catch(() => null)
    if (view.value && sent) view.value = { ...view.value, time: receiveHostTime(sent) }
    return sent !== null
  }

  /** How many entries of its hosts' calendars hold a word. */
  function entriesHeldBy(word: string): number {
    const seated = new Set(hostIdsOf(draft.value?.chairs ?? []))
    return (view.value?.time ?? []).filter(({ id }) => seated.has(id)).flatMap(({ taken }) => taken)
      .filter(({ holds }) => holds.some(held => held.toLowerCase() === word.toLowerCase())).reduce((sum, { entries }) => sum + entries, 0)
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
    draft, errors, isSound, changes, isChanged, hosts, ownHost, now, phrases, unknown,
    open, close, span, caseQuery, loadUnknown, loadHolds, entriesHeldBy,
  }
})
