<script setup lang="ts">
import { texts } from '~/locales/timetable'
import { type TimetableStart, layTimetable, otherClock, type TimetableRow } from '~~/core/timetable'
import type { Mark } from '~~/core/timetable/marks'
import { intersect } from '~~/core/time/intervals'
import { formatTimeOfDay, formatMonthDay, formatZoneDifference, formatHour, formatWeekday, formatZone } from '~~/core/time/format'
import { DAY } from '~~/core/time/civil'
import { zoneOf } from '~~/core/time/zone'
import { moveInTable } from '~/composables/table-keys'
import TimetableDay, { type Strip } from './TimetableDay.vue'

const props = defineProps<{
  departures: readonly TimetableStart<Mark>[]
  zone: string
  /** A second ruler stands on top where this zone shows other clocks. */
  otherZone: string
  firstDay: number
  days: number
  locale: string
  chosen?: number | null
  /** Places without a start can be asked about. */
  asks?: boolean
  caption: string
  /** Time that is taken, hatched: starts and ends, one after another. */
  taken?: readonly number[]
}>()
const emit = defineEmits<{ choose: [at: number], ask: [from: number, to: number] }>()

/** Where time is taken, there are columns and rows for it, also without a start. */
const takenHours = computed(() => {
  const zone = zoneOf(props.zone)
  return [...new Set([...strips.value.keys()].map(at => Math.floor((((zone.toLocal(at) % DAY) + DAY) % DAY) / 3600)))]
})
const takenDays = computed(() => new Set([...strips.value.keys()].map(at => zoneOf(props.zone).dayOf(at))))
const table = computed(() => layTimetable(
  props.departures, props.zone, props.otherZone, props.firstDay, props.firstDay + props.days - 1, takenHours.value,
))

/** From this many hours on, minutes stand closer. */
const DENSE_FROM = 9

type Line =
  | { kind: 'day', row: TimetableRow<Mark> }
  | { kind: 'empty', from: number, to: number }
  | { kind: 'ruler', ahead: number, from: number }

/** Days without openings fold into one slim line; where the two zones move apart, a new ruler stands between. */
const lines = computed(() => {
  const found: Line[] = []
  let ahead = firstAhead.value
  for (const row of table.value.rows) {
    const last = found.at(-1)
    if (row.count === 0 && !takenDays.value.has(row.day)) {
      if (last?.kind === 'empty') last.to = row.day
      else found.push({ kind: 'empty', from: row.day, to: row.day })
      continue
    }
    if (row.ahead !== ahead && row.count > 0) found.push({ kind: 'ruler', ahead: row.ahead, from: row.day })
    if (row.count > 0) ahead = row.ahead
    found.push({ kind: 'day', row })
  }
  return found
})
const firstAhead = computed(() => table.value.rows.find(row => row.count > 0)?.ahead ?? 0)
const twoZones = computed(() => table.value.rows.some(row => row.ahead !== 0 && row.count > 0))

function otherHour(hour: number, ahead: number): string {
  const { minutes, dayShift } = otherClock(hour, ahead)
  return formatTimeOfDay(minutes, props.locale) + (dayShift === 0 ? '' : dayShift > 0 ? texts.dayAfter : texts.dayBefore)
}

/** Only one button is in the tab order; arrows move on from it. */
const entry = computed(() => props.chosen ?? props.departures.find(departure => departure.mark !== 'gone')?.at ?? null)

/** The taken parts of each hour, in hundredths of it. */
const strips = computed(() => {
  const found = new Map<number, Strip[]>()
  const zone = zoneOf(props.zone)
  const taken = intersect(props.taken ?? [], [zone.startOfDay(props.firstDay), zone.startOfDay(props.firstDay + props.days)])
  for (let i = 0; i < taken.length; i += 2) {
    const end = taken[i + 1] ?? 0
    for (let at = taken[i] ?? 0; at < end;) {
      const hour = at - ((zone.toLocal(at) % 3600) + 3600) % 3600
      const [from, to] = [at - hour, Math.min(end - hour, 3600)].map(seconds => Math.round(seconds / 36)) as [number, number]
      found.set(hour, [...found.get(hour) ?? [], { from, to }])
      at = hour + 3600
    }
  }
  return found
})

const root = useTemplateRef<HTMLTableElement>('root')

function daysOf(from: number, to: number): [from: number, to: number] {
  const zone = zoneOf(props.zone)
  return [zone.startOfDay(from), zone.startOfDay(to + 1)]
}

/** One ear for all buttons: a place is asked about, so is a start that is gone, and any other is chosen. */
function press(event: MouseEvent): void {
  const button = event.target instanceof Element ? event.target.closest<HTMLButtonElement>('button[data-at]') : null
  if (!button) return
  const at = Number(button.dataset['at'])
  if (button.dataset['until']) emit('ask', at, Number(button.dataset['until']))
  else if (button.classList.contains('gone')) emit('ask', at, at)
  else emit('choose', at)
}

/** How many lines are in view at once, and after what rest the others follow. */
const IN_VIEW = 7
const REST_MS = 200
const keyOf = (line: Line) => `${line.kind} ${line.kind === 'day' ? line.row.day : line.from}`
const dayOf = (line: Line) => (line.kind === 'day' ? line.row.day : line.from)
const columns = computed(() => `${table.value.hours.join()} ${props.zone} ${props.firstDay}`)

/** What is in view is drawn at once; the lines below keep what they had until typing rests. */
let rest: ReturnType<typeof setTimeout> | undefined
const shown = shallowRef(lines.value)
watch([lines, columns], ([now, shape], [, before]) => {
  clearTimeout(rest)
  const first = now.slice(0, IN_VIEW)
  const last = first.at(-1)
  if (shape !== before || now.length <= IN_VIEW || !last) {
    shown.value = now
    return
  }
  const taken = new Set(first.map(keyOf))
  shown.value = [...first, ...shown.value.filter(line => dayOf(line) > dayOf(last) && !taken.has(keyOf(line)))]
  rest = setTimeout(() => (shown.value = lines.value), REST_MS)
})
</script>

<template>
  <table
    ref="root" class="timetable" :class="{ dense: table.hours.length > DENSE_FROM }"
    @keydown="moveInTable(root, $event)" @click="press"
  >
    <caption class="visually-hidden">{{ caption }}</caption>
    <thead>
      <tr>
        <th scope="col">
          {{ formatZone(zone) }}<span v-if="twoZones" class="other">{{ formatZone(otherZone) }}</span>
        </th>
        <th v-for="hour in table.hours" :key="hour" scope="col">
          {{ formatHour(hour, locale) }}<span v-if="twoZones" class="other">{{ otherHour(hour, firstAhead) }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <template v-for="line in shown" :key="keyOf(line)">
        <tr v-if="line.kind === 'empty'" class="empty">
          <th scope="row">
            {{ formatWeekday(line.from, 'short', locale) }}{{ line.to > line.from ? texts.to(formatWeekday(line.to, 'short', locale)) : ' ' }}<span class="date">{{ formatMonthDay(line.to, 'short', locale) }}</span>
          </th>
          <td :colspan="Math.max(1, table.hours.length)">
            <button
              v-if="asks" type="button" class="nothing" @click="emit('ask', ...daysOf(line.from, line.to))"
            >{{ texts.noTimesWhyNot }}</button>
            <template v-else>{{ texts.noTimes }}</template>
          </td>
        </tr>
        <tr v-else-if="line.kind === 'ruler'" class="ruler">
          <th scope="row">
            <span class="other">{{ formatZone(otherZone) }}</span>
          </th>
          <td v-for="(hour, index) in table.hours" :key="hour">
            <span class="other">{{ otherHour(hour, line.ahead) }}</span>
            <span v-if="index === 0" class="note">{{ texts.clocksChangeNow(formatZone(zone), formatZoneDifference(zone, otherZone, line.from * 86400 + 43200) ?? texts.level) }}</span>
          </td>
        </tr>
        <TimetableDay v-else :row="line.row" :zone="zone" :locale="locale" :chosen="chosen" :entry="entry" :asks="asks" :strips="strips" />
      </template>
    </tbody>
  </table>
</template>

<style src="./timetable.css"></style>
