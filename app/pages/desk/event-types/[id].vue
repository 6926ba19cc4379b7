<script setup lang="ts">
import { VBtn, VDialog } from 'vuetify/components'
import { type Panel, sentenceOf } from '~~/core/event-type/sentence'
import { queryFor } from '~~/core/event-type/settings'
import { DAY, formatInstant, instantToSeconds } from '~~/core/time/civil'
import { plural } from '~~/core/time/say'
import type { BenchView } from '~~/core/views/desk'
import BenchConsequences from '~/components/bench/BenchConsequences.vue'
import BenchPanel from '~/components/bench/BenchPanel.vue'
import WhyNot from '~/components/bench/WhyNot.vue'
import BenchSentence from '~/components/bench/BenchSentence.vue'
import { useBenchDraft } from '~/composables/bench-draft'
import type { Consequences } from '~~/core/openings/consequences'
import { useConsequences } from '~/composables/consequences'
import { problemOf } from '~/composables/problem'
import { saveCase, useWhyNot } from '~/composables/why-not'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })

const SHOWN_DAYS = 14

const desk = useDesk()
const id = String(useRoute().params['id'])
const bench = shallowRef<BenchView | null>(null)
const edited = shallowRef<ReturnType<typeof useBenchDraft> | null>(null)
const panel = ref<Panel>('hours')
const before = shallowRef<Consequences | null>(null)
const after = shallowRef<Consequences | null>(null)
const fault = ref('')
const done = ref('')
const publishing = ref(false)
const sending = ref(false)
const { compute } = useConsequences()

useHead({ title: () => `${bench.value?.eventType.settings.name ?? 'Event type'} · Temporia` })

async function load(): Promise<void> {
  try {
    const loaded = await $fetch<BenchView>(`/api/desk/event-types/${id}`)
    bench.value = loaded
    edited.value = useBenchDraft(loaded.eventType.settings, loaded.eventType.state)
    compute('before', queryOf(loaded.eventType.settings), answer => (before.value = answer))
  } catch (error) {
    fault.value = problemOf(error).words
  }
}
onMounted(load)

function queryOf(settings: BenchView['eventType']['settings']) {
  const view = bench.value
  if (!view) throw new Error('Nothing is loaded')
  const plain = JSON.parse(JSON.stringify({ settings, chairs: view.eventType.chairs, time: view.time })) as { settings: typeof settings, chairs: BenchView['eventType']['chairs'], time: BenchView['time'] }
  return queryFor(plain.settings, plain.chairs, plain.time, {
    now: formatInstant(view.now),
    from: formatInstant(view.now),
    to: formatInstant(view.now + SHOWN_DAYS * DAY),
  })
}

const draft = computed({
  get: () => edited.value?.draft.value ?? null,
  set: value => value && edited.value && (edited.value.draft.value = value),
})
const state = computed({
  get: () => edited.value?.draftState.value ?? 'draft',
  set: value => edited.value && (edited.value.draftState.value = value),
})
const errors = computed(() => edited.value?.errors.value ?? {})
const isSound = computed(() => edited.value?.isSound.value ?? true)
const changes = computed(() => (bench.value && edited.value ? edited.value.changesFrom(bench.value.eventType.settings, bench.value.eventType.state) : 0))
const phrases = computed(() => (draft.value && bench.value && isSound.value ? sentenceOf(draft.value, bench.value.eventType.chairs) : lastPhrases))
let lastPhrases: ReturnType<typeof sentenceOf> = []
watch(phrases, value => (lastPhrases = value))

const { answered, ask, close } = useWhyNot(queryOf, compute)

watch([draft, isSound], () => {
  if (!draft.value || !isSound.value) return
  compute('after', queryOf(draft.value), answer => (after.value = answer))
  const asked = answered.value && instantToSeconds(answered.value.explanation.at)
  if (asked !== null) ask(draft.value, asked, asked)
}, { deep: true })

const pool = computed(() => new Set(bench.value?.eventType.chairs.flatMap(chair => chair.hosts.map(host => host.id))).size)

const difference = computed(() => {
  const [was, is] = [new Set(before.value?.starts), new Set(after.value?.starts)]
  return { added: [...is].filter(at => !was.has(at)).length, gone: [...was].filter(at => !is.has(at)).length }
})

function undoAll(): void {
  if (!bench.value) return
  edited.value = useBenchDraft(bench.value.eventType.settings, bench.value.eventType.state)
  done.value = ''
}

async function publish(): Promise<void> {
  if (!bench.value || !draft.value) return
  sending.value = true
  fault.value = ''
  try {
    await $fetch(`/api/desk/event-types/${id}/publish`, {
      method: 'POST',
      body: { basedOn: bench.value.eventType.version, state: state.value, settings: draft.value },
    })
    done.value = 'Published. Clients see it from now on.'
    await load()
  } catch (error) {
    const { words, document } = problemOf(error)
    fault.value = document?.errors?.length ? document.errors.map(one => `${one.path.replace(/^settings\./, '')}: ${one.message}`).join('. ') : words
  } finally {
    sending.value = false
    publishing.value = false
  }
}

/** What was typed and not published is not lost by a slip. */
onBeforeRouteLeave(() => changes.value === 0 || window.confirm('Leave without publishing? Your changes would be lost.'))
</script>

<template>
  <div class="bench">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="!bench && !fault" class="fault quiet">Fetching …</p>
    <template v-if="bench && draft">
      <header class="top">
        <div>
          <h1><button type="button" :aria-pressed="panel === 'name'" @click="panel = 'name'">{{ draft.name || 'Without a name' }}</button> <span class="quiet">{{ state }}, {{ bench.eventType.listed ? 'listed' : 'unlisted' }}{{ changes > 0 ? ` · ${plural(changes, 'change')} not published` : '' }}</span></h1>
          <BenchSentence :phrases="phrases" :panel="panel" @open="panel = $event" />
        </div>
        <div class="do">
          <VBtn :disabled="changes === 0 || !isSound" @click="publishing = true">Publish…</VBtn>
          <p>
            <button v-if="changes > 0" type="button" class="word" @click="undoAll">Undo all</button>
            <a :href="bench.page" target="_blank" rel="noopener">Look as a client</a>
          </p>
          <p v-if="done && changes === 0" role="status">{{ done }}</p>
          <p v-if="!isSound" class="broken" role="status">Something in a panel does not fit yet; the sentence and the timetable show the last that did.</p>
        </div>
      </header>
      <div class="parts">
        <div class="left">
          <BenchPanel :key="`${panel} ${bench.eventType.version}`" v-model="draft" v-model:state="state" :panel="panel" :bench="bench" :errors="errors" @unread="edited?.setUnread" />
        </div>
        <div class="right">
          <BenchConsequences
            :before="before" :after="after" :zone="desk.zone" :other-zone="bench.eventType.settings.timeZone" :locale="desk.locale" :now="bench.now"
            :days="SHOWN_DAYS" :pool="pool" @ask="(from, to) => draft && isSound && ask(draft, from, to)" @save="draft && isSound && saveCase(queryOf(draft))"
          >
            <WhyNot
              v-if="answered" v-bind="answered" :hosts="bench.hosts" :zone="desk.zone" :locale="desk.locale" :now="bench.now"
              @open="panel = $event" @save="answered && saveCase(answered.query)" @close="close"
            />
          </BenchConsequences>
        </div>
      </div>
      <VDialog v-model="publishing" max-width="460">
        <div class="ask">
          <h2>Publish {{ plural(changes, 'change') }}?</h2>
          <p>
            In the next two weeks clients see {{ plural(difference.added, 'new opening') }}, and {{ difference.gone === 0 ? 'none go' : difference.gone === 1 ? '1 goes' : `${difference.gone} go` }}.
            <template v-if="state !== bench.eventType.state"> It becomes {{ state }}.</template>
            Bookings already made stay as they are.
          </p>
          <p class="actions">
            <VBtn :loading="sending" @click="publish">Publish</VBtn>
            <button type="button" class="word" @click="publishing = false">Keep editing</button>
          </p>
        </div>
      </VDialog>
    </template>
  </div>
</template>

<style scoped>
.top {
  display: flex;
  justify-content: space-between;
  gap: 32px;
  background: var(--surface);
  border-bottom: 1px solid var(--line);
  padding: 16px 24px;
}

h1 {
  font-family: var(--body);
  font-size: 13px;
  font-weight: 400;
  letter-spacing: 0;
  margin-bottom: 4px;
}

h1 button {
  border: 0;
  background: none;
  padding: 0;
  font-weight: 700;
  cursor: pointer;
  border-bottom: 1px dotted var(--quiet);
}

h1 button[aria-pressed='true'] {
  background: var(--marigold);
  color: var(--on-marigold);
}

.do {
  flex: 0 0 240px;
  text-align: right;
  font-size: 13px;
}

.do p {
  margin-top: 8px;
  display: flex;
  justify-content: flex-end;
  gap: 16px;
}

.parts {
  display: grid;
  grid-template-columns: 372px minmax(0, 1fr);
  min-height: calc(100vh - 230px);
}

.left {
  border-right: 1px solid var(--line);
  padding: 20px 24px;
}

.right {
  padding: 20px 24px;
}

.ask {
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  border-radius: var(--corner);
  padding: 22px;
  display: grid;
  gap: 12px;
}

.ask h2 {
  font-size: 18px;
}

.actions {
  display: flex;
  align-items: center;
  gap: 18px;
}

@media (max-width: 900px) {
  .top,
  .parts {
    display: block;
  }

  .do {
    text-align: left;
    margin-top: 12px;
  }

  .do p {
    justify-content: flex-start;
  }

  .left {
    border-right: 0;
    border-bottom: 1px solid var(--line);
  }
}
</style>
