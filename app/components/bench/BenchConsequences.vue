<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VSelect } from 'vuetify/components'
import type { WayOut } from '~~/core/checks'
import { hostIdsOf } from '~~/core/event-type/settings'
import { formatDuration } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import { countWithin, markStarts } from '~~/core/timetable/marks'
import ZoneField from '~/components/fields/ZoneField.vue'
import TimeTable from '~/components/timetable/TimeTable.vue'
import { COMPUTED_DAYS, useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'
import AskTime from './AskTime.vue'
import FindingsList from './FindingsList.vue'

/** What clients would see: findings, openings a week, and the timetable before and after. */

const bench = useBench()
const desk = useDesk()
const emit = defineEmits<{ ask: [from: number, to: number], save: [], out: [wayOut: WayOut] }>()

const SHOWN_DAYS = 14
const WEEK = 7

/** Another zone to look from, as a client there would. */
const look = ref<string | null>(null)
const seen = computed(() => look.value ?? desk.zone)
const near = computed(() => [...new Set([desk.zone, ...bench.hosts.map(host => host.timeZone)])])

const durations = computed(() =>
  (bench.draft?.settings.durations ?? []).map(minutes => ({ value: minutes, title: formatDuration(minutes) })),
)
const otherZone = computed(() => bench.draft?.settings.timeZone ?? desk.zone)
const pool = computed(() => hostIdsOf(bench.draft?.chairs ?? []).length)

const today = computed(() => zoneOf(seen.value).dayOf(bench.now))
const page = ref(0)
const firstDay = computed(() => today.value + page.value * SHOWN_DAYS)
const pages = computed(() => Math.floor(COMPUTED_DAYS / SHOWN_DAYS))
const starts = computed(() => ({ before: bench.before?.starts ?? [], after: bench.after?.starts ?? [] }))
const departures = computed(() => {
  const zone = zoneOf(seen.value)
  return markStarts(starts.value.before, starts.value.after, zone.startOfDay(firstDay.value), zone.startOfDay(firstDay.value + SHOWN_DAYS))
})
const changed = computed(() => departures.value.some(departure => departure.mark !== 'stays'))
const taken = computed(() => bench.after?.taken ?? [])
/** Taken time has rows of its own, also where nothing can be booked. */
const hasRows = computed(() => {
  const zone = zoneOf(seen.value)
  const [from, to] = [zone.startOfDay(firstDay.value), zone.startOfDay(firstDay.value + SHOWN_DAYS)]
  return departures.value.length > 0 || Array.from(taken.value).some((at, i) => i % 2 === 0 && at < to && (taken.value[i + 1] ?? 0) > from)
})

/** Openings of each week from today on, before and after. */
const weeks = computed(() => {
  const zone = zoneOf(seen.value)
  return Array.from({ length: Math.floor(COMPUTED_DAYS / WEEK) }, (_, week) => {
    const [from, to] = [zone.startOfDay(today.value + week * WEEK), zone.startOfDay(today.value + (week + 1) * WEEK)]
    return { week, before: countWithin(starts.value.before, from, to), after: countWithin(starts.value.after, from, to) }
  })
})
const most = computed(() => Math.max(1, ...weeks.value.map(week => Math.max(week.before, week.after))))
const figure = (before: number, after: number) => (before === after ? String(after) : `${before} → ${after}`)
const weekWords = (week: number) => (week === 0 ? texts.inTheNext7Days : week === 1 ? texts.inThe7DaysAfter : texts.inWeek(week + 1))
</script>

<template>
  <section class="consequences" aria-labelledby="consequences">
    <div class="head">
      <h2 id="consequences">{{ texts.whatClientsWouldSee }}</h2>
      <ZoneField
        :model-value="seen" class="look" :label="texts.seenFrom" density="compact" :locale="desk.locale" :now="bench.now" :near="near"
        @update:model-value="look = $event"
      />
      <VSelect v-if="durations.length > 1" v-model="bench.duration" class="duration" :label="texts.duration" :items="durations" hide-details />
      <span class="turn">
        <LinkButton :disabled="page === 0" @click="page--">{{ texts.earlier }}</LinkButton>
        <LinkButton :disabled="page >= pages - 1" @click="page++">{{ texts.later }}</LinkButton>
      </span>
      <p class="legend timetable" aria-hidden="true">
        <button type="button" class="stays" tabindex="-1">{{ '00' }}</button> {{ texts.stays }}
        <button type="button" class="new" tabindex="-1">{{ '15' }}</button> {{ texts.newOpening }}
        <button type="button" class="gone" tabindex="-1">{{ '30' }}</button> {{ texts.gone }}
        <i class="hatched" /> {{ texts.taken }}
      </p>
    </div>
    <p v-if="!bench.after" class="quiet">{{ texts.calculating }}</p>
    <template v-else>
      <div class="top">
        <dl class="figures" aria-live="polite">
          <div v-for="row in weeks.slice(0, 2)" :key="row.week">
            <dt>{{ figure(row.before, row.after) }}</dt>
            <dd>{{ texts.openings(weekWords(row.week)) }}</dd>
          </div>
          <div>
            <dt>{{ texts.of(bench.after.hosts.length, pool) }}</dt>
            <dd>{{ pool === 1 ? texts.hostCanBeBooked : texts.hostsCanBeBooked }}</dd>
          </div>
        </dl>
        <figure :aria-label="texts.openingsAWeek(weeks.map(row => figure(row.before, row.after)).join(', '))" role="img">
          <span v-for="row in weeks" :key="row.week" :title="texts.openingsInWeek(figure(row.before, row.after), weekWords(row.week))">
            <i
              class="was" :style="{ height: `${100 * row.before / most}%` }"
            /><i class="is" :style="{ height: `${100 * row.after / most}%` }" />
          </span>
          <figcaption class="quiet">
            {{ texts.openingsAWeekForWeeks(weeks.length) }}<br>
            <i class="key was" /> {{ texts.published }} <i class="key is" /> {{ texts.yourDraft }}
          </figcaption>
        </figure>
      </div>
      <FindingsList v-if="bench.findings && bench.findings.length > 0" :findings="bench.findings" @out="emit('out', $event)" />
      <slot />
      <TimeTable
        v-if="hasRows" asks :departures="departures" :zone="seen" :other-zone="otherZone"
        :first-day="firstDay" :days="SHOWN_DAYS" :locale="desk.locale" :taken="taken"
        :caption="changed ? texts.openingsBeforeAndAfter : texts.openingsByDayAndHour"
        @ask="(from, to) => emit('ask', from, to)"
      />
      <p v-else class="none">{{ texts.nothingCanBeBooked }}</p>
      <AskTime :key="seen" :zone="seen" @ask="at => emit('ask', at, at)" @save="emit('save')" />
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 16px;
  margin-bottom: 8px;
  font-size: 13px;
}

h2 {
  font-size: 17px;
}

.look {
  flex: 0 0 190px;
}

.duration {
  flex: 0 0 170px;
}

.turn {
  display: flex;
  gap: 12px;
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

figure .key {
  display: inline-block;
  height: 8px;
}

figcaption {
  font-size: 12px;
  line-height: 1.3;
  margin-left: 6px;
}

.none {
  padding: 18px 0;
}
</style>
