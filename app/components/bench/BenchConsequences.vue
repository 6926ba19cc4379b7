<script setup lang="ts">
import { DAY } from '~~/core/time/civil'
import { zoneOf } from '~~/core/time/zone'
import type { Departure } from '~~/core/timetable'
import TimeTable, { type Mark } from '~/components/timetable/TimeTable.vue'
import AskTime from './AskTime.vue'
import type { Consequences } from '~~/core/openings/consequences'

/** What clients would see: the timetable before and after, and figures. */

const props = defineProps<{
  before: Consequences | null
  after: Consequences | null
  zone: string
  otherZone: string
  locale: string
  now: number
  days: number
  pool: number
}>()
const emit = defineEmits<{ ask: [from: number, to: number], save: [] }>()

const firstDay = computed(() => zoneOf(props.zone).dayOf(props.now))

const departures = computed<Departure<Mark>[]>(() => {
  const before = new Set(props.before?.starts)
  const after = props.after?.starts ?? []
  const now = new Set(after)
  return [
    ...after.map(at => ({ at, mark: before.has(at) ? 'stays' as const : 'new' as const })),
    ...[...before].filter(at => !now.has(at)).map(at => ({ at, mark: 'gone' as const })),
  ]
})

const WEEK = 7
function countWeek(starts: readonly number[] | undefined, week: number): number {
  const zone = zoneOf(props.zone)
  const [from, to] = [zone.startOfDay(firstDay.value + week * WEEK), zone.startOfDay(firstDay.value + (week + 1) * WEEK)]
  return starts?.filter(start => start >= from && start < to).length ?? 0
}

const figures = computed(() => ['openings in the next 7 days', 'in the 7 days after'].map((words, week) => {
  const [before, after] = [countWeek(props.before?.starts, week), countWeek(props.after?.starts, week)]
  return { words, value: before === after ? String(after) : `${before} → ${after}` }
}))
const nothing = computed(() => props.after !== null && props.after.starts.length === 0)
const span = computed(() => `${Math.round(props.days * DAY / DAY / WEEK)} weeks`)
</script>

<template>
  <section class="consequences" aria-labelledby="consequences">
    <div class="head">
      <h2 id="consequences">What clients would see, next {{ span }}</h2>
      <p class="legend timetable" aria-hidden="true">
        <button type="button" class="stays" tabindex="-1">00</button> stays
        <button type="button" class="new" tabindex="-1">15</button> new
        <button type="button" class="gone" tabindex="-1">30</button> gone
      </p>
    </div>
    <p v-if="!after" class="quiet">Working it out …</p>
    <template v-else>
      <p v-if="nothing" class="warning"><strong>No opening in the next {{ span }}.</strong> Clients would find nothing to book; look at the hours, how soon and how far ahead it may be booked.</p>
      <dl class="figures" aria-live="polite">
        <div v-for="figure in figures" :key="figure.words">
          <dt>{{ figure.value }}</dt>
          <dd>{{ figure.words }}</dd>
        </div>
        <div>
          <dt>{{ after.hosts.length }} of {{ pool }}</dt>
          <dd>{{ pool === 1 ? 'host' : 'hosts' }} can be reached</dd>
        </div>
      </dl>
      <slot />
      <TimeTable
        v-if="departures.length > 0" asks :departures="departures" :zone="zone" :other-zone="otherZone" :first-day="firstDay" :days="days" :locale="locale"
        caption="Openings before and after the change, one row a day and one column an hour"
        @ask="(from, to) => emit('ask', from, to)"
      />
      <AskTime :zone="zone" :now="now" @ask="at => emit('ask', at, at)" @save="emit('save')" />
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: baseline;
  gap: 4px 20px;
  margin-bottom: 8px;
}

h2 {
  font-size: 17px;
}

.legend {
  width: auto;
  color: var(--quiet);
  font-size: 13px;
}

.legend button {
  cursor: default;
  margin-left: 8px;
  pointer-events: none;
}

.warning {
  border-left: 3px solid var(--brick);
  background: var(--surface);
  padding: 10px 14px;
  margin-bottom: 12px;
}

.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 28px;
  margin: 2px 0 14px;
}

.figures dt {
  font-family: var(--heading);
  font-weight: 700;
  font-size: 19px;
}

.figures dd {
  margin: 0;
  color: var(--quiet);
}
</style>
