<script setup lang="ts">
import { VBtn } from 'vuetify/components'
import type { Finding, WayOut } from '~~/core/checks'
import { partAt } from '~~/core/event-type/changes'
import { benchQuery, type Consequences } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'
import { type Panel, panels } from '~~/core/event-type/panels'
import { sentenceOf } from '~~/core/event-type/sentence'
import { hostIdsOf } from '~~/core/event-type/settings'
import type { HolidayDates } from '~~/core/hours/plan'
import { DAY, formatInstant } from '~~/core/time/civil'
import type { BenchView } from '~~/core/views/desk'
import BenchConsequences from '~/components/bench/BenchConsequences.vue'
import BenchHead from '~/components/bench/BenchHead.vue'
import BenchPanel from '~/components/bench/BenchPanel.vue'
import ConflictDialog from '~/components/bench/ConflictDialog.vue'
import PublishDialog from '~/components/bench/PublishDialog.vue'
import QuestionsPreview from '~/components/bench/QuestionsPreview.vue'
import WhyNot from '~/components/bench/WhyNot.vue'
import { type BenchDraft, useBenchDraft } from '~/composables/bench-draft'
import { useConsequences } from '~/composables/consequences'
import { useSavedDraft } from '~/composables/saved-draft'
import { problemOf } from '~/composables/problem'
import { usePublishing } from '~/composables/publishing'
import { saveCase, useWhyNot } from '~/composables/why-not'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })

const COMPUTED_DAYS = 56
const TWO_WEEKS = 14 * DAY

const desk = useDesk()
const route = useRoute()
const id = String(route.params['id'])
const bench = shallowRef<BenchView | null>(null)
const edited = shallowRef<BenchDraft | null>(null)
const holidays = shallowRef<HolidayDates>({})
const before = shallowRef<Consequences | null>(null)
const after = shallowRef<Consequences | null>(null)
const findings = shallowRef<Finding[] | null>(null)
const duration = ref(30)
const fault = ref('')
const { know, compute } = useConsequences()
const savedDraft = useSavedDraft(id)
const {
  isAsked,
  faults,
  sending,
  affected,
  difference,
  conflict,
  done,
  ask: prepare,
  publish,
  meet,
  settle,
} = usePublishing(id, { bench, edited, savedDraft, compute, load })

/** Hosts may try everything here; what they try stays with them. */
const mayChange = computed(() => desk.member?.role !== 'host')

/** The open panel stands in the address, so that a link leads to it and back goes back. */
const panel = computed<Panel>({
  get: () => panels.find(candidate => candidate === route.query['panel']) ?? 'hours',
  set: value => void navigateTo({ query: { ...route.query, panel: value }, replace: true }),
})

/** What was typed at a panel and could not be read goes when the panel goes. */
watch(panel, () => edited.value?.dropUnread())

useHead({ title: () => `${bench.value?.definition.settings.name ?? 'Event type'} · Temporia` })

async function load(): Promise<void> {
  try {
    const loaded = await $fetch<BenchView>(`/api/desk/event-types/${id}`)
    const { draft } = loaded
    bench.value = loaded
    holidays.value = loaded.holidays
    duration.value = loaded.definition.settings.durations[0] ?? 30
    know({
      hosts: loaded.hosts,
      time: loaded.time,
      holidays: loaded.holidays,
      linkedFrom: loaded.linkedFrom,
      now: formatInstant(loaded.now),
    })
    edited.value = useBenchDraft(loaded.definition, draft?.definition)
    if (draft && draft.basedOn < loaded.version) await meet(draft.basedOn)
  } catch (error) {
    fault.value = problemOf(error).message
  }
}
onMounted(load)

const span = (view: BenchView) => ({ from: view.now, to: view.now + COMPUTED_DAYS * DAY, durationMinutes: duration.value })
const explain = (definition: Definition, instants: string[], answered: (answer: Consequences) => void) =>
  bench.value
  && compute(
    'why',
    {
      kind: 'openings',
      definition,
      span: { from: bench.value.now, to: bench.value.now, durationMinutes: duration.value, explain: instants },
    },
    answered,
  )
const { answered, ask, askAgain, close } = useWhyNot(explain)

const draft = computed(() => edited.value?.draft.value ?? null)
const errors = computed(() => edited.value?.errors.value ?? {})
const isSound = computed(() => edited.value?.isSound.value ?? true)
const changes = computed(() => edited.value?.changes.value ?? [])
/** A part that does not fit and is not in sight. */
const wrong = computed(() => Object.keys(errors.value).map(partAt).find(part => part !== null && part.panel !== panel.value))
const isChanged = computed(() => changes.value.length > 0 || !isSound.value)
let lastPhrases: ReturnType<typeof sentenceOf> = []
const phrases = computed(() => {
  if (draft.value && isSound.value) lastPhrases = sentenceOf(draft.value.settings, draft.value.chairs)
  return lastPhrases
})

watch([bench, duration], () => {
  if (bench.value)
    compute('before', { kind: 'openings', definition: bench.value.definition, span: span(bench.value) }, answer => (before.value = answer))
})
watch([draft, isSound, duration, holidays], () => {
  const view = bench.value
  if (!draft.value || !isSound.value || !view) return
  const definition = draft.value
  if (!definition.settings.durations.includes(duration.value)) duration.value = definition.settings.durations[0] ?? 30
  compute('after', { kind: 'openings', definition, span: span(view) }, answer => (after.value = answer))
  compute('findings', { kind: 'findings', definition }, (answer) => {
    if (JSON.stringify(answer) !== JSON.stringify(findings.value)) findings.value = answer
  })
  askAgain(definition)
})
watch(holidays, (dates) => {
  const view = bench.value
  if (view) know({ hosts: view.hosts, time: view.time, holidays: dates, linkedFrom: view.linkedFrom, now: formatInstant(view.now) })
})
watch(draft, (definition, earlier) => {
  if (!definition || !earlier || !bench.value) return
  done.value = ''
  if (!mayChange.value) return
  if (definition === bench.value.definition || changes.value.length === 0) void savedDraft.drop()
  else if (isSound.value) savedDraft.save(bench.value.version, definition)
})

const hostZones = computed(() => [...new Set(bench.value?.hosts.map(host => host.timeZone))])
const explained = computed(() => (answered.value && draft.value && bench.value
  ? { explanation: answered.value, query: queryOf(draft.value, [answered.value.at]) } : null))

function queryOf(definition: Definition, instants?: string[]) {
  const view = bench.value
  if (!view) throw new Error('Nothing is loaded')
  return benchQuery(
    definition,
    { time: view.time, holidays: holidays.value, now: formatInstant(view.now) },
    { ...span(view), to: view.now + TWO_WEEKS, ...(instants ? { explain: instants } : {}) },
  )
}

function takeWayOut(wayOut: WayOut): void {
  if (wayOut.kind === 'open') panel.value = wayOut.panel
  if (wayOut.kind === 'set' && edited.value && draft.value) edited.value.changeSettings({ ...draft.value.settings, ...wayOut.settings })
}

/** Whoever types into a field means the draft, not the letters of that field. */
function key(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.altKey || !edited.value) return
  const name = event.key.toLowerCase()
  if (name !== 'z' && name !== 'y') return
  event.preventDefault()
  if (name === 'y' || event.shiftKey) edited.value.redo()
  else edited.value.undo()
}

onMounted(() => window.addEventListener('keydown', key))
onBeforeUnmount(() => window.removeEventListener('keydown', key))

/** Where the draft cannot be saved, what was changed is not lost by a slip. */
onBeforeRouteLeave(() =>
  isSound.value && savedDraft.state.value !== 'failed' ? true : window.confirm('Leave? Some of your changes could not be saved.'),
)
</script>

<template>
  <div class="bench">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="!bench && !fault" class="fault quiet">Loading…</p>
    <template v-if="bench && draft && edited">
      <BenchHead
        v-model="panel" :definition="draft" :phrases="phrases" :archived="bench.archived" :changes="changes.length"
        :is-sound="isSound" :saved="mayChange ? savedDraft.state.value : null"
      >
        <VBtn v-if="mayChange" :disabled="changes.length === 0 || !isSound" @click="prepare">Publish…</VBtn>
        <p v-else class="quiet">Try what you like: owners and coordinators publish.</p>
        <p>
          <LinkButton :disabled="!edited.canUndo.value" title="Ctrl Z" @click="edited.undo()">Undo</LinkButton>
          <LinkButton :disabled="!edited.canRedo.value" title="Ctrl Shift Z" @click="edited.redo()">Redo</LinkButton>
          <LinkButton v-if="isChanged" @click="edited.discard()">Discard all</LinkButton>
          <a :href="bench.page" target="_blank" rel="noopener">Look as a client</a>
        </p>
        <p v-if="done && changes.length === 0" role="status">{{ done }}</p>
        <p v-if="!isSound" class="broken" role="status">
          Fix the marked part; showing the last valid version.
          <LinkButton v-if="wrong" @click="panel = wrong.panel">Where: {{ wrong.label }}</LinkButton>
        </p>
      </BenchHead>
      <div class="parts">
        <div class="left">
          <BenchPanel
            :key="`${panel} ${bench.version} ${edited.fresh.value}`" v-model:holidays="holidays" :model-value="draft"
            :panel="panel" :bench="bench" :errors="errors" :zone="desk.zone" :locale="desk.locale"
            @update:model-value="edited.change($event, panel)" @unread="edited?.setUnread" @bring="edited.change($event, 'bring')"
          />
        </div>
        <div class="right">
          <QuestionsPreview v-if="panel === 'questions'" :questions="draft.settings.questions" />
          <BenchConsequences
            v-else v-model:duration="duration" :before="before" :after="after" :findings="findings" :zone="desk.zone"
            :zones="hostZones" :other-zone="draft.settings.timeZone"
            :locale="desk.locale" :now="bench.now" :days="COMPUTED_DAYS" :durations="draft.settings.durations"
            :pool="hostIdsOf(draft.chairs).length"
            @ask="(from, to) => draft && isSound && ask(draft, from, to)"
            @save="draft && isSound && saveCase(queryOf(draft))" @out="takeWayOut"
          >
            <WhyNot
              v-if="explained" v-bind="explained" :hosts="bench.hosts" :zone="desk.zone" :locale="desk.locale" :now="bench.now"
              @open="panel = $event" @save="explained && saveCase(explained.query)" @close="close"
            />
          </BenchConsequences>
        </div>
      </div>
      <PublishDialog
        v-model="isAsked" :state="draft.state" :changes="changes" :difference="difference" :affected="affected" :sending="sending"
        :faults="faults" :hosts="bench.hosts" :zone="desk.zone" :locale="desk.locale" :now="bench.now"
        @publish="publish"
      />
      <ConflictDialog
        v-if="conflict" v-bind="conflict" :mine="draft" :zone="desk.zone" :locale="desk.locale" :now="bench.now"
        @go="settle"
      />
    </template>
  </div>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: 372px minmax(0, 1fr);
  min-height: calc(100vh - 230px);
}

.left {
  border-right: 1px solid var(--line);
  padding: 16px 24px;
}

.right {
  padding: 16px 24px;
  min-width: 0;
}

@media (max-width: 900px) {
  .parts {
    display: block;
  }

  .left {
    border-right: 0;
    border-bottom: 1px solid var(--line);
  }
}
</style>
