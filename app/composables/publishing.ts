import type { Ref } from 'vue'
import type { Affected } from '~~/core/event-type/affected-sessions'
import type { OpeningsDifference } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'
import type { EventTypeState } from '~~/core/event-type/settings'
import { DAY } from '~~/core/time/civil'
import type { BenchView, PublishedVersion } from '~~/core/views/desk'
import type { BenchDraft } from '~/composables/bench-draft'
import type { useConsequences } from '~/composables/consequences'
import type { useSavedDraft } from '~/composables/saved-draft'
import { problemOf } from '~/composables/problem'

interface Bench {
  bench: Ref<BenchView | null>
  edited: Ref<BenchDraft | null>
  savedDraft: ReturnType<typeof useSavedDraft>
  compute: ReturnType<typeof useConsequences>['compute']
  load: () => Promise<void>
}

/** How far ahead it is counted what clients gain and lose. */
const COUNTED_SECONDS = 14 * DAY

const published: Record<EventTypeState, string> = {
  open: 'Published. Clients see it from now on.',
  draft: 'Published as a draft. Clients see nothing of it until you open it.',
  closed: 'Published. It stays closed to clients.',
}

/** Publishing a draft: asked first with what it means, and set beside what somebody else published meanwhile. */
export function usePublishing(id: string, { bench, edited, savedDraft, compute, load }: Bench) {
  const isAsked = ref(false)
  const sending = ref(false)
  const faults = ref<string[]>([])
  const done = ref('')
  /** Sessions that are booked and would no longer be allowed; null while they are looked for. */
  const affected = shallowRef<Affected[] | null>(null)
  /** What clients gain and lose; null while it is counted. */
  const difference = shallowRef<OpeningsDifference | null>(null)
  const conflict = shallowRef<{ base: Definition, theirs: PublishedVersion } | null>(null)

  function ask(): void {
    if (!edited.value || !bench.value) return
    faults.value = []
    affected.value = null
    isAsked.value = true
    compute(
      'affected',
      { kind: 'affected', definition: edited.value.draft.value, booked: bench.value.booked },
      answer => (affected.value = answer),
    )
    countDifference(edited.value.draft.value)
  }

  function countDifference(after: Definition): void {
    if (!bench.value) return
    difference.value = null
    const span = { from: bench.value.now, to: bench.value.now + COUNTED_SECONDS }
    // A draft is most often published to be opened: what that would mean is counted beside it.
    const open = after.state === 'draft' ? { ...after, state: 'open' as const } : after
    compute('difference', { kind: 'difference', before: bench.value.definition, after: open, span }, answer => (difference.value = answer))
  }

  /** Publishes the draft as it is, or opens it at the same time. */
  async function publish(opens: boolean): Promise<void> {
    if (!bench.value || !edited.value) return
    if (opens) edited.value.change({ ...edited.value.draft.value, state: 'open' }, 'state')
    const { state } = edited.value.draft.value
    sending.value = true
    const basedOn = bench.value.version
    try {
      await savedDraft.send()
      await $fetch(`/api/desk/event-types/${id}/publish`, { method: 'POST', body: { basedOn, definition: edited.value.draft.value } })
      savedDraft.forget()
      isAsked.value = false
      await load()
      done.value = published[state]
    } catch (error) {
      const { message: problem, document } = problemOf(error)
      if (document?.status === 409 && await meet(basedOn).then(() => true, () => false)) {
        isAsked.value = false
      } else {
        faults.value = document?.errors?.length ? document.errors.map(error => error.message) : [problem]
        edited.value?.refuse(
          Object.fromEntries((document?.errors ?? []).map(error => [error.path.replace(/^definition\.(settings\.)?/, ''), error.message])),
        )
      }
    } finally {
      sending.value = false
    }
  }

  /** Sets the newest version beside the one that the draft began from, or the oldest that is still known. */
  async function meet(basedOn: number): Promise<void> {
    const versions = await $fetch<PublishedVersion[]>(`/api/desk/event-types/${id}/versions`)
    const [theirs, base] = [versions[0], versions.find(version => version.version === basedOn) ?? versions.at(-1)]
    if (theirs && base) conflict.value = { base: base.definition, theirs }
  }

  /** Goes on from theirs with what is left of the draft. */
  async function settle(definition: Definition): Promise<void> {
    conflict.value = null
    await savedDraft.drop()
    await load()
    edited.value?.change(definition, 'theirs')
  }

  return { isAsked, sending, faults, done, affected, difference, conflict, ask, publish, meet, settle }
}
