<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VBtn, VDialog, VSelect } from 'vuetify/components'
import type { Definition } from '~~/core/event-type/definition'
import { type HostPlan, planFor } from '~~/core/event-type/host-time'
import type { Settings } from '~~/core/event-type/settings'
import { type StoredPlan, plainPlan } from '~~/core/hours/plan'
import { describeWeek } from '~~/core/time/hours-text'
import { formatList, formatZone } from '~~/core/time/format'
import TypedHours from '~/components/hours/TypedHours.vue'
import WeekPainter from '~/components/hours/WeekPainter.vue'
import { useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'

/** What works on a whole plan brings the libraries for rules and calendar files, which the week itself does without. */
const PlanEditor = defineAsyncComponent(() => import('~/components/hours/PlanEditor.vue'))
const PlanFiles = defineAsyncComponent(() => import('~/components/hours/PlanFiles.vue'))

const props = defineProps<{ chairs: Definition['chairs'] }>()
const bench = useBench()
const desk = useDesk()
const locale = computed(() => desk.locale)
const settings = defineModel<Settings>({ required: true })
const emit = defineEmits<{ unread: [message: string | null] }>()

const modes = [
  { mode: 'hosts', title: texts.wheneverTheHostsAreOpen, text: texts.eachHostsOwnHours },
  { mode: 'narrow', title: texts.onlyWithinTheseHours, text: texts.hostsOwnHoursNarrowedByThese },
  { mode: 'replace', title: texts.inTheseHoursInstead, text: texts.whateverTheHostsOwnHoursSay },
] as const

/** The plan that is shown while another mode is tried stays here, so that nothing set is lost. */
const lastPlan = ref<StoredPlan>(settings.value.hours.mode === 'hosts'
  ? plainPlan(settings.value.timeZone, [{ days: ['MO', 'TU', 'WE', 'TH', 'FR'], from: '09:00', to: '17:00' }])
  : settings.value.hours.plan)
const mode = computed(() => settings.value.hours.mode)
const plan = computed<StoredPlan>({
  get: () => (settings.value.hours.mode === 'hosts' ? lastPlan.value : settings.value.hours.plan),
  set: (value) => {
    lastPlan.value = value
    if (mode.value !== 'hosts') settings.value = { ...settings.value, hours: { ...hostPlans.value, mode: mode.value, plan: value } }
  },
})
const whole = ref(false)

/** The workspace's plan that the event type takes its hours from; none where they are its own. */
const shared = computed(() => (settings.value.hours.mode === 'hosts' ? '' : settings.value.hours.shared ?? ''))
const sharedPlan = computed(() => bench.view?.sharedPlans.find(item => item.id === shared.value))
const planChoices = computed(() => [
  { value: '', title: texts.ofThisEventType },
  ...(bench.view?.sharedPlans ?? []).map(item => ({ value: item.id, title: texts.sharedPlan(item.name) })),
])
function chooseShared(id: string): void {
  const { hours } = settings.value
  if (hours.mode === 'hosts') return
  const { shared: _before, ...rest } = hours
  const chosen = bench.view?.sharedPlans.find(item => item.id === id)
  settings.value = { ...settings.value, hours: chosen ? { ...rest, plan: chosen.plan, shared: id } : rest }
  emit('unread', null)
}

function choose(chosen: (typeof modes)[number]['mode']): void {
  settings.value = {
    ...settings.value,
    hours:
      chosen === 'hosts'
        ? { ...hostPlans.value, mode: chosen }
        : { ...(chosen === 'narrow' ? hostPlans.value : {}), mode: chosen, plan: lastPlan.value },
  }
  if (chosen === 'hosts') emit('unread', null)
}

const pool = computed(() =>
  [...new Set(props.chairs.flatMap(chair => chair.hosts.map(host => host.id)))]
    .map(id => bench.hosts.find(host => host.id === id))
    .filter(host => host !== undefined),
)

/** Which of the hosts' plans apply, where any is named. */
const hostPlans = computed(() =>
  settings.value.hours.mode !== 'replace' && settings.value.hours.hostPlans ? { hostPlans: settings.value.hours.hostPlans } : {},
)

function chosenPlan(hostId: string): HostPlan | undefined {
  const time = bench.view?.time.find(host => host.id === hostId)
  return time && planFor(time, settings.value.hours)
}

function choosePlan(hostId: string, planId: string): void {
  const { hours } = settings.value
  if (hours.mode === 'replace') return
  const { [hostId]: _before, ...others } = hours.hostPlans ?? {}
  const isDefault = bench.view?.time.find(host => host.id === hostId)?.plans.find(item => item.id === planId)?.isDefault
  const named = isDefault ? others : { ...others, [hostId]: planId }
  const { hostPlans: _all, ...rest } = hours
  settings.value = { ...settings.value, hours: Object.keys(named).length === 0 ? rest : { ...rest, hostPlans: named } }
}

/** What else the plan says, so that it is not overlooked. */
const others = computed(() => formatList([
  ...(plan.value.recurring.length > 0 ? [texts.recurringWindowCount(plan.value.recurring.length)] : []),
  ...(plan.value.exceptions.length > 0 ? [texts.singleDateCount(plan.value.exceptions.length)] : []),
  ...(plan.value.holidays.length > 0 ? ['holidays'] : []),
  ...(plan.value.valid.from !== null || plan.value.valid.to !== null ? [texts.aFirstOrLastDate] : []),
]))
const planErrors = computed(() => Object.fromEntries(Object.entries(bench.errors).filter(([path]) => path.startsWith('hours.plan'))))
</script>

<template>
  <div class="hours-panel">
    <div class="modes" role="radiogroup" :aria-label="texts.whenCanItBeBooked">
      <button
        v-for="choice in modes" :key="choice.mode" type="button" role="radio" :aria-checked="mode === choice.mode"
        @click="choose(choice.mode)"
      >
        <strong>{{ choice.title }}</strong><span class="quiet">{{ choice.text }}</span>
      </button>
    </div>
    <template v-if="mode !== 'hosts'">
      <VSelect
        v-if="(bench.view?.sharedPlans.length ?? 0) > 0" class="whose" :label="texts.whoseHours" :model-value="shared" :items="planChoices" hide-details
        @update:model-value="chooseShared($event ?? '')"
      />
      <p v-if="sharedPlan" class="quiet">
        {{ describeWeek(sharedPlan.plan.weekly, locale) }}{{ others ? texts.sharedHas(others) : '' }}
        <NuxtLink :to="`/desk/hours/${sharedPlan.id}`" :prefetch="false">{{ texts.changeForAll }}</NuxtLink>
      </p>
    </template>
    <template v-if="mode !== 'hosts' && !sharedPlan">
      <WeekPainter :model-value="plan.weekly" @update:model-value="plan = { ...plan, weekly: $event }" />
      <TypedHours
        :model-value="plan.weekly" :zone-name="formatZone(plan.timeZone)"
        @update:model-value="plan = { ...plan, weekly: $event }" @unread="emit('unread', $event)"
      />
      <p v-for="(message, path) in planErrors" :key="path" class="broken" role="alert">{{ message }}</p>
      <p>
        <LinkButton @click="whole = true">{{ texts.recurringHoursSingleDatesAndHolidays }}</LinkButton>
        <span class="quiet">{{ others ? texts.itHas(others) : texts.itHasNone }}</span>
      </p>
    </template>
    <dl v-if="mode === 'hosts'">
      <template v-for="host in pool" :key="host.id">
        <dt>{{ host.name }}</dt>
        <dd>
          <VSelect
            v-if="host.plans.length > 1" :aria-label="texts.hoursOfThatApply(host.name)" :model-value="chosenPlan(host.id)?.id"
            :items="host.plans" item-value="id" item-title="name" hide-details @update:model-value="choosePlan(host.id, $event ?? '')"
          />
          <template v-if="chosenPlan(host.id)">{{ describeWeek(chosenPlan(host.id)?.plan.weekly ?? [], locale) }}</template> <span class="quiet">{{ texts.zoneTime(formatZone(host.timeZone)) }}</span>
          {{ ' ' }}<NuxtLink v-if="chosenPlan(host.id)" :prefetch="false" :to="`/desk/hours/${chosenPlan(host.id)?.id}`">{{ texts.change }}</NuxtLink>
        </dd>
      </template>
    </dl>
    <VDialog v-model="whole" max-width="1040" scrollable>
      <div class="whole" role="document">
        <header>
          <h2>{{ texts.hoursOfThisEventType }}</h2>
          <p><PlanFiles :id="bench.view?.id ?? ''" v-model="plan" :name="settings.name" :now="bench.now" :holidays="bench.holidays" /></p>
          <VBtn @click="whole = false">{{ texts.done }}</VBtn>
        </header>
        <PlanEditor
          v-model="plan" v-model:holidays="bench.holidays" :now="bench.now" :locale="locale"
          :zones="bench.hosts.map(host => host.timeZone)" :errors="planErrors" @unread="emit('unread', $event)"
        />
      </div>
    </VDialog>
  </div>
</template>

<style scoped>
.modes {
  display: grid;
  gap: 6px;
  margin-bottom: 12px;
}

.modes button {
  text-align: left;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 6px 12px;
  cursor: pointer;
}

.modes button[aria-checked='true'] {
  border-color: var(--aubergine);
  box-shadow: inset 3px 0 0 var(--aubergine);
}

.modes strong,
.modes .quiet {
  display: block;
  font-size: 13.5px;
}

.whose {
  margin-bottom: 10px;
}

.hours-panel :deep(.field) {
  margin-top: 10px;
}

dl {
  margin: 0;
}

dt {
  font-weight: 600;
}

dd {
  margin: 0 0 10px;
}

.whole {
  font-size: 14px;
  background: var(--paper);
  border-radius: var(--corner);
  padding: 22px 26px;
  overflow-y: auto;
}

.whole header {
  display: flex;
  align-items: baseline;
  gap: 24px;
  margin-bottom: 14px;
}

.whole header p {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  flex: 1;
}

.whole h2 {
  font-size: 20px;
}
</style>
