<script setup lang="ts">
import { texts } from '~/locales/timetable'
import { type TimetableStart, layTimetable, otherClock } from '~~/core/timetable'
import { formatTimeOfDay, formatMonthDay, formatDay, formatHour, formatTime, formatWeekday, formatZone } from '~~/core/time/format'

/** The timetable turned for a narrow screen: a strip of days with how much choice each has, below it one row an hour. */

const props = defineProps<{
  departures: readonly TimetableStart[]
  zone: string
  otherZone: string
  firstDay: number
  days: number
  locale: string
  chosen: number | null
}>()
const emit = defineEmits<{ choose: [at: number] }>()

const table = computed(() => layTimetable(props.departures, props.zone, props.otherZone, props.firstDay, props.firstDay + props.days - 1))
const most = computed(() => Math.max(1, ...table.value.rows.map(row => row.count)))
const picked = ref<number | null>(null)
const day = computed(
  () => table.value.rows.find(row => row.day === picked.value && row.count > 0) ?? table.value.rows.find(row => row.count > 0) ?? null,
)
const hours = computed(() => day.value?.cells.filter(cell => cell.departures.length > 0) ?? [])

watch(() => [props.firstDay, props.zone], () => (picked.value = null))

/** Up to so many times an hour are written in full; more are minutes past it. */
const MOST_WHOLE = 4

function otherHour(hour: number): string {
  const { minutes, dayShift } = otherClock(hour, day.value?.ahead ?? 0)
  return formatTimeOfDay(minutes, props.locale) + (dayShift === 0 ? '' : dayShift > 0 ? ' +1' : ' −1')
}
</script>

<template>
  <div class="phone-timetable">
    <div class="strip" role="group" :aria-label="texts.days">
      <button
        v-for="row in table.rows" :key="row.day" type="button" :disabled="row.count === 0"
        :aria-pressed="row.day === day?.day"
        @click="picked = row.day"
      >
        {{ formatWeekday(row.day, 'short', locale) }}<strong>{{ formatMonthDay(row.day, 'short', locale).replace(/[^\d]/g, '') }}</strong>
        <span class="visually-hidden">, {{ texts.timeCount(row.count) }}</span>
        <span class="choice"><span :style="{ width: `${100 * row.count / most}%` }" /></span>
      </button>
    </div>
    <p v-if="day" class="of-day">
      <strong>{{ formatWeekday(day.day, 'long', locale) }} {{ formatMonthDay(day.day, 'long', locale) }}</strong>
      <span v-if="day.ahead !== 0" class="quiet">{{ texts.timeBesideIt(formatZone(zone), formatZone(otherZone)) }}</span>
    </p>
    <div class="hours" :class="{ two: day && day.ahead !== 0 }">
      <div v-for="cell in hours" :key="cell.hour" class="hour">
        <strong>{{ formatHour(cell.hour, locale) }}</strong>
        <span v-if="day && day.ahead !== 0" class="quiet">{{ otherHour(cell.hour) }}</span>
        <span class="minutes">
          <button
            v-for="departure in cell.departures" :key="departure.at" type="button" :class="{ chosen: departure.at === chosen }"
            :aria-pressed="departure.at === chosen"
            :aria-label="`${formatDay(departure.at, zone, locale, departure.at)}, ${formatTime(departure.at, zone, locale)}`"
            @click="emit('choose', departure.at)"
          >{{ cell.departures.length > MOST_WHOLE ? String(departure.minute).padStart(2, '0') : formatTime(departure.at, zone, locale) }}</button>
        </span>
      </div>
    </div>
  </div>
</template>

<style>
.phone-timetable .strip {
  display: flex;
  gap: 6px;
  overflow-x: auto;
  margin: 0 -18px;
  padding: 4px 18px;
  scrollbar-width: none;
}

.phone-timetable .strip button {
  /* Its hidden words stay within it. */
  position: relative;
  flex: 0 0 62px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 6px 8px;
  font-size: 0.85rem;
  cursor: pointer;
}

.phone-timetable .strip button strong {
  display: block;
  font-size: 1.05rem;
}

.phone-timetable .strip button[aria-pressed='true'] {
  border-color: var(--aubergine);
  box-shadow: inset 0 -3px 0 var(--marigold);
}

.phone-timetable .strip button:disabled {
  background: none;
  color: var(--quiet);
  cursor: default;
}

.phone-timetable .choice {
  display: block;
  height: 4px;
  margin: 4px 0 2px;
  border-radius: 2px;
  background: var(--line);
}

.phone-timetable .choice span {
  display: block;
  height: 4px;
  border-radius: 2px;
  background: var(--aubergine-soft);
}

.phone-timetable .of-day {
  margin: 14px 0 6px;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  font-size: 0.95rem;
}

/* One grid for all hours, so that they line up whatever their length. */
.phone-timetable .hours {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
}

.phone-timetable .hours.two {
  grid-template-columns: max-content max-content minmax(0, 1fr);
}

.phone-timetable .hour {
  display: grid;
  grid-column: 1 / -1;
  grid-template-columns: subgrid;
  align-items: center;
  column-gap: 12px;
  border-top: 1px solid var(--line);
  padding: 5px 0;
}

.phone-timetable .hour > strong,
.phone-timetable .hour > .quiet {
  white-space: nowrap;
}

.phone-timetable .hour > .quiet {
  font-size: 0.9rem;
}

.phone-timetable .minutes {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.phone-timetable .minutes button {
  min-width: 54px;
  min-height: 44px;
  padding: 0 10px;
  white-space: nowrap;
  border: 1px solid transparent;
  border-radius: var(--corner);
  background: var(--aubergine-tint);
  color: var(--aubergine);
  font-weight: 600;
  cursor: pointer;
}

.phone-timetable .minutes button.chosen {
  background: var(--marigold);
  color: var(--on-marigold);
}
</style>
