<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VBtn } from 'vuetify/components'
import type { WayOut } from '~~/core/checks'
import { partAt } from '~~/core/event-type/changes'
import type { Consequences } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'
import { type Panel, panels } from '~~/core/event-type/panels'
import { nameForTeam } from '~~/core/event-type/name-for-team'
import { formatInstant } from '~~/core/time/civil'
import { receiveHostTime } from '~~/core/event-type/host-time'
import type { BenchView, SentBench } from '~~/core/views/event-types'
import BenchConsequences from '~/components/bench/BenchConsequences.vue'
import BenchHead from '~/components/bench/BenchHead.vue'
import BenchPanel from '~/components/bench/BenchPanel.vue'
import WhyNot from '~/components/bench/WhyNot.vue'
import { useConsequences } from '~/composables/consequences'
import { copyText } from '~/composables/copy-text'
import { useSavedDraft } from '~/composables/saved-draft'
import { problemOf } from '~/composables/problem'
import { usePublishing } from '~/composables/publishing'
import { saveCase, useWhyNot } from '~/composables/why-not'
import { useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

definePageMeta({ layout: 'desk' })

const ConflictDialog = defineAsyncComponent(() => import('~/components/bench/ConflictDialog.vue'))
const PublishDialog = defineAsyncComponent(() => import('~/components/bench/PublishDialog.vue'))
/** Clients’ form, which only those need who change the questions. */
const QuestionsPreview = defineAsyncComponent(() => import('~/components/bench/QuestionsPreview.vue'))

const desk = useDesk()
const bench = useBench()
const notice = useNotice()
const route = useRoute()
const id = String(route.params['id'])
const fault = ref('')
const { know, compute } = useConsequences()
const savedDraft = useSavedDraft(id)
const { isAsked, faults, sending, affected, difference, conflict, ask: prepare, publish, meet, settle } =
  usePublishing(id, { savedDraft, compute, load })
/** Hosts may try everything here; what they try stays with them. */
const mayChange = computed(() => desk.mayChangeEventTypes)
bench.close()

/** The open panel stands in the address, so that a link leads to it and back goes back. */
const panel = computed<Panel>({
  get: () => panels.find(candidate => candidate === route.query['panel']) ?? 'hours',
  set: value => void navigateTo({ query: { ...route.query, panel: value }, replace: true }),
})
/** What was typed at a panel and could not be read goes when the panel goes. */
watch(panel, () => bench.edited?.dropUnread())
useHead({ title: () => texts.pageTitle(bench.view ? nameForTeam(bench.view.definition.settings) : texts.eventType) })

async function load(): Promise<void> {
  try {
    const sent = await $fetch<SentBench>(`/api/desk/event-types/${id}`)
    const loaded: BenchView = { ...sent, time: receiveHostTime(sent.time) }
    const { draft } = loaded
    knowOf(loaded)
    bench.open(loaded)
    if (draft && draft.basedOn < loaded.version) await meet(draft.basedOn)
  } catch (error) {
    fault.value = problemOf(error).message
  }
}
void load()

function knowOf(view: BenchView, holidays = view.holidays): void {
  const { hosts, time, linkedFrom, messages, roomWays, canBePaid, now } = view
  know({ hosts, time, holidays, linkedFrom, messages, roomWays, canBePaid, now: formatInstant(now) })
}

const explain = (definition: Definition, instants: string[], done: (answer: Consequences) => void) => {
  const span = { from: bench.now, to: bench.now, durationMinutes: bench.duration, explain: instants }
  compute('why', { kind: 'openings', definition, span }, done)
}
const { answered, ask, askAgain, close } = useWhyNot(explain)

/** A part that does not fit and is not in sight. */
const wrong = computed(() => Object.keys(bench.errors).map(partAt).find(part => part !== null && part.panel !== panel.value))

watch(() => [bench.view, bench.duration] as const, ([view]) => {
  if (view) compute('before', { kind: 'openings', definition: view.definition, span: bench.span() }, answer => (bench.before = answer))
})
watch(() => bench.unknown, async () => {
  if (await bench.loadUnknown() && bench.view) knowOf(bench.view, bench.holidays)
})
watch(() => bench.draft?.settings.holds, async () => {
  if (bench.isSound && await bench.loadHolds() && bench.view) knowOf(bench.view, bench.holidays)
})
watch(() => [bench.draft, bench.isSound, bench.duration, bench.holidays, bench.view?.time] as const, ([definition, isSound]) => {
  if (!definition || !isSound || !bench.view) return
  if (!definition.settings.durations.includes(bench.duration)) bench.duration = definition.settings.durations[0] ?? 30
  compute('after', { kind: 'openings', definition, span: bench.span() }, answer => (bench.after = answer))
  compute('findings', { kind: 'findings', definition }, (answer) => {
    if (JSON.stringify(answer) !== JSON.stringify(bench.findings)) bench.findings = answer
  })
  askAgain(definition)
})
watch(() => bench.holidays, (dates) => {
  if (bench.view && dates !== bench.view.holidays) knowOf(bench.view, dates)
})
watch(() => bench.draft, (definition, earlier) => {
  if (!definition || !earlier || !bench.view || !mayChange.value) return
  if (definition === bench.view.definition || bench.changes.length === 0) void savedDraft.drop()
  else if (bench.isSound) savedDraft.save(bench.view.version, definition)
})

function takeWayOut(wayOut: WayOut): void {
  if (wayOut.kind === 'open') panel.value = wayOut.panel
  if (wayOut.kind === 'set' && bench.edited && bench.draft)
    bench.edited.changeSettings({ ...bench.draft.settings, ...wayOut.settings })
}

function save(instants?: string[]): void {
  if (!bench.draft || !bench.isSound) return
  saveCase(bench.caseQuery(bench.draft, instants))
  notice.show(texts.caseIsSaved)
}

/** A panel that is opened by keyboard has the cursor, and Escape gives it back to its phrase. */
const left = useTemplateRef<HTMLElement>('left')
const head = useTemplateRef<InstanceType<typeof BenchHead>>('head')
async function open(next: Panel, byKeyboard: boolean): Promise<void> {
  await navigateTo({ query: { ...route.query, panel: next }, replace: true })
  if (!byKeyboard) return
  await nextTick()
  const first = 'input:not([type="hidden"]):not(:disabled), textarea, [tabindex="0"], button:not(:disabled)'
  left.value?.querySelector<HTMLElement>(first)?.focus()
}
function leavePanel(event: KeyboardEvent): void {
  if (event.defaultPrevented || document.querySelector('.v-overlay--active:not(.v-snackbar)')) return
  head.value?.focusOn(panel.value)
}

/** Whoever types into a field means the draft, not the letters of that field. */
function key(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.altKey || !bench.edited) return
  const name = event.key.toLowerCase()
  if (name !== 'z' && name !== 'y') return
  event.preventDefault()
  if (name === 'y' || event.shiftKey) bench.edited.redo()
  else bench.edited.undo()
}
onMounted(() => window.addEventListener('keydown', key))
onBeforeUnmount(() => window.removeEventListener('keydown', key))

/** A preview shows what the server has saved. */
async function preview(): Promise<void> {
  const tab = window.open('', '_blank')
  await savedDraft.send()
  const page = bench.view?.page
  const isPlain = bench.draft?.state === 'open' && !bench.isChanged && !bench.view?.archived
  if (tab && page) tab.location.href = isPlain ? page : `${page.slice(0, page.lastIndexOf('/') + 1)}${bench.draft?.slug ?? ''}?preview`
}

/** Where the draft cannot be saved, what was changed is not lost by a slip. */
onBeforeRouteLeave(() =>
  bench.isSound && savedDraft.state.value !== 'failed' ? true : window.confirm(texts.leaveUnsaved),
)
</script>

<template>
  <div class="bench">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="!bench.view && !fault" class="fault quiet">{{ texts.loading }}</p>
    <template v-if="bench.view && bench.draft && bench.edited">
      <BenchHead ref="head" :panel="panel" :saved="mayChange ? savedDraft.state.value : null" @open="open">
        <LinkButton :disabled="!bench.edited.canUndo.value" :title="texts.ctrlZ" @click="bench.edited.undo()">{{ texts.undo }}</LinkButton>
        <LinkButton
          :disabled="!bench.edited.canRedo.value" :title="texts.ctrlShiftZ" @click="bench.edited.redo()"
        >{{ texts.redo }}</LinkButton>
        <LinkButton v-if="bench.isChanged" @click="bench.edited.discard()">{{ texts.discardAll }}</LinkButton>
        <LinkButton @click="copyText(bench.view.page, texts.theLinkIsCopied)">{{ texts.copyLink }}</LinkButton>
        <LinkButton @click="preview">{{ texts.previewAsAClient }}</LinkButton>
        <VBtn v-if="mayChange" :disabled="bench.changes.length === 0 || !bench.isSound" @click="prepare">{{ texts.publishEllipsis }}</VBtn>
        <span v-else class="quiet">{{ texts.onlyOwnersAndCoordinatorsPublish }}</span>
        <template v-if="!bench.isSound" #fault>
          <p class="broken" role="status">
            {{ texts.fixTheMarkedPart }}
            <LinkButton v-if="wrong" @click="panel = wrong.panel">{{ texts.where(wrong.label) }}</LinkButton>
          </p>
        </template>
      </BenchHead>
      <div class="parts">
        <div ref="left" class="left" @keydown.esc="leavePanel">
          <BenchPanel
            :key="`${panel} ${bench.view.version} ${bench.edited.fresh.value}`" :model-value="bench.draft" :panel="panel"
            @update:model-value="bench.edited.change($event, panel)" @unread="bench.edited?.setUnread"
            @bring="bench.edited.change($event, 'bring')"
          />
        </div>
        <div class="right">
          <QuestionsPreview v-if="panel === 'questions'" :definition="bench.draft" />
          <p v-else-if="bench.unknown.length > 0" class="quiet">{{ texts.otherHostsTime }}</p>
          <BenchConsequences
            v-else @ask="(from, to) => bench.draft && bench.isSound && ask(bench.draft, from, to)" @save="save()" @out="takeWayOut"
          >
            <WhyNot
              v-if="answered" :asked="answered" @open="panel = $event" @save="save($event)" @close="close"
              @ask="at => bench.draft && ask(bench.draft, at, at)"
            />
          </BenchConsequences>
        </div>
      </div>
      <PublishDialog
        v-model="isAsked" :difference="difference" :affected="affected" :sending="sending" :faults="faults" @publish="publish"
      />
      <ConflictDialog v-if="conflict" v-bind="conflict" :mine="bench.draft" @go="settle" />
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
