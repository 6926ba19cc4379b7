<script setup lang="ts">
import type { Finding, WayOut } from '~~/core/checks'
import type { Consequences } from '~~/core/event-type/consequences'
import { formatDuration } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import { countWithin, markStarts } from '~~/core/timetable/marks'
import TimeTable from '~/components/timetable/TimeTable.vue'
import AskTime from './AskTime.vue'
import FindingsList from './FindingsList.vue'
import LookFrom from './LookFrom.vue'

/** What clients would see: findings, openings a week, and the timetable before and after. */

const props = defineProps<{
  before: Consequences | null
  after: Consequences | null
  findings: readonly Finding[] | null
  zone: string
  zones: readonly string[]
  otherZone: string
  locale: string
  now: number
  /** How many days are computed. */
  days: number
  durations: readonly number[]
  pool: number
}>()
const duration = defineModel<number>('duration', { required: true })
const emit = defineEmits<{ ask: [from: number, to: number], save: [], out: [wayOut: WayOut] }>()

const SHOWN_DAYS = 14
const WEEK = 7
/** Another zone to look from, as a client there would. */
const look = ref<string | null>(null)
const seen = computed(() => look.value ?? props.zone)
const today = computed(() => zoneOf(seen.value).dayOf(props.now))
const page = ref(0)
const firstDay = computed(() => today.value + page.value * SHOWN_DAYS)
const pages = computed(() => Math.floor(props.days / SHOWN_DAYS))

const starts = computed(() => ({ before: props.before?.starts ?? [], after: props.after?.starts ?? [] }))
const departures = computed(() => {
  const zone = zoneOf(seen.value)
  return markStarts(starts.value.before, starts.value.after, zone.startOfDay(firstDay.value), zone.startOfDay(firstDay.value + SHOWN_DAYS))
})
const changed = computed(() => departures.value.some(departure => departure.mark !== 'stays'))

/** Openings of each week from today on, before and after. */
const weeks = computed(() => {
  const zone = zoneOf(seen.value)
  return Array.from({ length: Math.floor(props.days / WEEK) }, (_, week) => {
    const [from, to] = [zone.startOfDay(today.value + week * WEEK), zone.startOfDay(today.value + (week + 1) * WEEK)]
    return { week, before: countWithin(starts.value.before, from, to), after: countWithin(starts.value.after, from, to) }
  })
})
const most = computed(() => Math.max(1, ...weeks.value.map(week => Math.max(week.before, week.after))))
const said = (before: number, after: number) => (before === after ? String(after) : `${before} → ${after}`)
const weekWords = (week: number) => (week === 0 ? 'in the next 7 days' : week === 1 ? 'in the 7 days after' : `in week ${week + 1}`)

const nearZones = computed(() => [props.zone, ...props.zones])
</script>

<template>
  <section class="consequences" aria-labelledby="consequences">
    <div class="head">
      <h2 id="consequences">What clients would see</h2>
      <LookFrom :model-value="seen" :zones="nearZones" @update:model-value="look = $event" />
      <label v-if="durations.length > 1">for
        <select
          :value="duration" aria-label="Duration that is shown"
          @change="duration = Number(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="choice in durations" :key="choice" :value="choice">{{ formatDuration(choice) }}</option>
        </select>
      </label>
      <span class="turn">
        <LinkButton :disabled="page === 0" @click="page--">earlier</LinkButton>
        <LinkButton :disabled="page >= pages - 1" @click="page++">later</LinkButton>
      </span>
      <p class="legend timetable" aria-hidden="true">
        <button type="button" class="stays" tabindex="-1">00</button> stays
        <button type="button" class="new" tabindex="-1">15</button> new
        <button type="button" class="gone" tabindex="-1">30</button> gone
        <i class="hatched" /> taken
      </p>
    </div>
    <p v-if="!after" class="quiet">Calculating…</p>
    <template v-else>
      <div class="top">
        <dl class="figures" aria-live="polite">
          <div v-for="row in weeks.slice(0, 2)" :key="row.week">
            <dt>{{ said(row.before, row.after) }}</dt>
            <dd>openings {{ weekWords(row.week) }}</dd>
          </div>
          <div>
            <dt>{{ after.hosts.length }} of {{ pool }}</dt>
            <dd>{{ pool === 1 ? 'host' : 'hosts' }} can be reached</dd>
          </div>
        </dl>
        <figure :aria-label="`Openings a week: ${weeks.map(row => said(row.before, row.after)).join(', ')}`" role="img">
          <span v-for="row in weeks" :key="row.week" :title="`${said(row.before, row.after)} openings ${weekWords(row.week)}`">
            <i
              class="was" :style="{ height: `${100 * row.before / most}%` }"
            /><i class="is" :style="{ height: `${100 * row.after / most}%` }" />
          </span>
          <figcaption class="quiet">a week, {{ weeks.length }} weeks</figcaption>
        </figure>
      </div>
      <FindingsList v-if="findings && findings.length > 0" :findings="findings" @out="emit('out', $event)" />
      <slot />
      <TimeTable
        v-if="departures.length > 0" asks :departures="departures" :zone="seen" :other-zone="otherZone"
        :first-day="firstDay" :days="SHOWN_DAYS" :locale="locale" :taken="after.taken"
        :caption="changed ? 'Openings before and after the change, one row a day and one column an hour' : 'Openings, one row a day and one column an hour'"
        @ask="(from, to) => emit('ask', from, to)"
      />
      <p v-else class="none">Nothing can be booked in these two weeks.</p>
      <AskTime :zone="seen" :locale="locale" :now="now" @ask="at => emit('ask', at, at)" @save="emit('save')" />
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 16px;
  margin-bottom: 8px;
  font-size: 13px;
}

h2 {
  font-size: 17px;
}

.head :deep(label) {
  color: var(--quiet);
}

.head :deep(select) {
  border: 0;
  border-bottom: 1px dotted var(--quiet);
  background: none;
  color: var(--ink);
  padding: 2px 0;
  max-width: 11rem;
}

.turn {
  display: flex;
  gap: 12px;
}

.word:disabled {
  color: var(--quiet);
  text-decoration: none;
  cursor: default;
}

.legend {
  width: auto;
  color: var(--quiet);
  margin-left: auto;
}

.legend button {
  cursor: default;
  margin-left: 8px;
  pointer-events: none;
}

.legend .hatched {
  display: inline-block;
  width: 24px;
  height: 16px;
  margin-left: 8px;
  vertical-align: -3px;
  border: 1px solid var(--line);
  background: repeating-linear-gradient(-45deg, transparent 0 4px, var(--hatch) 4px 5px);
}

.top {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: flex-end;
  gap: 6px 28px;
  margin-bottom: 10px;
}

.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  margin: 0;
}

.figures dt {
  font-family: var(--heading);
  font-weight: 700;
  font-size: 18px;
  line-height: 1.25;
}

.figures dd {
  margin: 0;
  color: var(--quiet);
  font-size: 13px;
}

figure {
  display: flex;
  align-items: flex-end;
  gap: 4px;
  height: 34px;
  margin: 0;
}

figure span {
  display: flex;
  align-items: flex-end;
  height: 100%;
  border-bottom: 1px solid var(--line);
}

figure i {
  width: 7px;
  background: var(--aubergine-soft);
}

figure .was {
  background: var(--hatch);
}

figcaption {
  font-size: 12px;
  margin-left: 6px;
}

.none {
  padding: 18px 0;
}
</style>
