import type { Affected } from '~~/core/event-type/affected-sessions'
import type { OpeningsDifference } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'
import type { EventTypeState } from '~~/core/event-type/settings'
import { DAY } from '~~/core/time/civil'
import type { PublishedVersion } from '~~/core/views/event-types'
import type { useConsequences } from '~/composables/consequences'
import type { useSavedDraft } from '~/composables/saved-draft'
import { texts } from '~/locales/bench'
import { problemOf } from '~/composables/problem'
import { useBench } from '~/stores/bench'
import { useNotice } from '~/stores/notice'

interface Around {
  savedDraft: ReturnType<typeof useSavedDraft>
  compute: ReturnType<typeof useConsequences>['compute']
  load: () => Promise<void>
}

/** How far ahead it is counted what clients gain and lose. */
const COUNTED_SECONDS = 14 * DAY

const published: Record<EventTypeState, string> = {
  open: texts.publishedOpen,
  draft: texts.publishedDraft,
  closed: texts.publishedClosed,
}

/** Publishing a draft: asked first with what it means, and set beside what somebody else published meanwhile. */
export function usePublishing(id: string, { savedDraft, compute, load }: Around) {
  const bench = useBench()
  const notice = useNotice()
  const isAsked = ref(false)
  const sending = ref(false)
  const faults = ref<string[]>([])
  /** Sessions that are booked and would no longer be allowed; null while they are looked for. */
  const affected = shallowRef<Affected[] | null>(null)
  /** What clients gain and lose; null while it is counted. */
  const difference = shallowRef<OpeningsDifference | null>(null)
  const conflict = shallowRef<{ base: Definition, theirs: PublishedVersion } | null>(null)

  function ask(): void {
    if (!bench.edited || !bench.view) return
    faults.value = []
    affected.value = null
    isAsked.value = true
    compute(
      'affected',
      { kind: 'affected', definition: bench.edited.draft.value, booked: bench.view.booked },
      answer => (affected.value = answer),
    )
    countDifference(bench.edited.draft.value)
  }

  function countDifference(after: Definition): void {
    if (!bench.view) return
    difference.value = null
    const span = { from: bench.view.now, to: bench.view.now + COUNTED_SECONDS }
    // A draft is most often published to be opened: what that would mean is counted beside it.
    const open = after.state === 'draft' ? { ...after, state: 'open' as const } : after
    compute('difference', { kind: 'difference', before: bench.view.definition, after: open, span }, answer => (difference.value = answer))
  }

  /** Publishes the draft as it is, or opens it at the same time. */
  async function publish(opens: boolean): Promise<void> {
    if (!bench.view || !bench.edited) return
    if (opens) bench.edited.change({ ...bench.edited.draft.value, state: 'open' }, 'state')
    const { state } = bench.edited.draft.value
    sending.value = true
    const basedOn = bench.view.version
    try {
      await savedDraft.send()
      await $fetch(`/api/desk/event-types/${id}/publish`, { method: 'POST', body: { basedOn, definition: bench.edited.draft.value } })
      savedDraft.forget()
      isAsked.value = false
      await load()
      notice.show(published[state])
    } catch (error) {
      const { message: problem, document } = problemOf(error)
      if (document?.status === 409 && await meet(basedOn).then(() => true, () => false)) {
        isAsked.value = false
      } else {
        faults.value = document?.errors?.length ? document.errors.map(error => error.message) : [problem]
        bench.edited?.refuse(
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
    bench.edited?.change(definition, 'theirs')
  }

  return { isAsked, sending, faults, affected, difference, conflict, ask, publish, meet, settle }
}
