<script setup lang="ts">
import { DAY } from '~~/core/time/civil'
import { type Departure, layTimetable, otherClock, type TimetableRow } from '~~/core/timetable'
import { sayClock, sayDate, sayDay, sayDifference, sayHour, sayTime, sayWeekday, sayZone } from '~~/core/time/say'
import { zoneOf } from '~~/core/time/zone'
import { moveInTable } from '~/composables/table-keys'

export type Mark = 'stays' | 'new' | 'gone'

const props = defineProps<{
  departures: readonly Departure<Mark>[]
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

const table = computed(() => layTimetable(props.departures, props.zone, props.otherZone, props.firstDay, props.firstDay + props.days - 1))

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
    if (row.count === 0) {
      if (last?.kind === 'empty') last.to = row.day
      else found.push({ kind: 'empty', from: row.day, to: row.day })
      continue
    }
    if (row.ahead !== ahead) found.push({ kind: 'ruler', ahead: row.ahead, from: row.day })
    ahead = row.ahead
    found.push({ kind: 'day', row })
  }
  return found
})
const firstAhead = computed(() => table.value.rows.find(row => row.count > 0)?.ahead ?? 0)
const twoZones = computed(() => table.value.rows.some(row => row.ahead !== 0 && row.count > 0))

function otherHour(hour: number, ahead: number): string {
  const { minutes, dayShift } = otherClock(hour, ahead)
  return sayClock(minutes, props.locale) + (dayShift === 0 ? '' : dayShift > 0 ? '\nday after' : '\nday before')
}

function fullTime(at: number, mark: Mark): string {
  const time = `${sayDay(at, props.zone, props.locale, at)}, ${sayTime(at, props.zone, props.locale)}`
  return mark === 'stays' ? time : `${time}, ${mark}`
}

/** Only one button is in the tab order; arrows move on from it. */
const entry = computed(() => props.chosen ?? props.departures.find(departure => departure.mark !== 'gone')?.at ?? null)

/** The taken part of each hour cell, as a background that leaves the rest clear. */
const hatches = computed(() => {
  const found = new Map<number, string[]>()
  const { taken = [] } = props
  for (let i = 0; i < taken.length; i += 2) {
    const end = taken[i + 1] ?? 0
    for (let at = taken[i] ?? 0; at < end;) {
      const hour = Math.floor(at / 900) * 900 - ((zoneOf(props.zone).toLocal(Math.floor(at / 900) * 900) % 3600) + 3600) % 3600
      const until = Math.min(end, hour + 3600)
      const strip = `${Math.round((at - hour) / 36)}% ${Math.round((until - hour) / 36)}%`
      found.set(hour, [...(found.get(hour) ?? []), strip])
      at = until
    }
  }
  return found
})

function hatch(day: number, hour: number): Record<string, string> | undefined {
  const strips = hatches.value.get(hourOf(day, hour)[0])
  if (!strips) return undefined
  const mask = strips.map((strip) => {
    const [from, to] = strip.split(' ')
    return `transparent ${from}, black ${from}, black ${to}, transparent ${to}`
  })
  return { '--taken': `linear-gradient(to right, transparent 0%, ${mask.join(', ')}, transparent 100%)` }
}

const root = useTemplateRef<HTMLTableElement>('root')

/** The hour of a local date that a place stands for, as instants. */
function hourOf(day: number, hour: number): [from: number, to: number] {
  const zone = zoneOf(props.zone)
  return [zone.toInstant(day * DAY + hour * 3600), zone.toInstant(day * DAY + (hour + 1) * 3600)]
}

function daysOf(from: number, to: number): [from: number, to: number] {
  const zone = zoneOf(props.zone)
  return [zone.startOfDay(from), zone.startOfDay(to + 1)]
}

function emptyWords(day: number, hour: number): string {
  const [from] = hourOf(day, hour)
  return `Nothing ${sayDay(from, props.zone, props.locale, from)} from ${sayTime(from, props.zone, props.locale)}: why not?`
}
</script>

<template>
  <table ref="root" class="timetable" :class="{ dense: table.hours.length > DENSE_FROM }" @keydown="moveInTable(root, $event)">
    <caption class="hidden-words">{{ caption }}</caption>
    <thead>
      <tr>
        <th scope="col">
          {{ sayZone(zone) }}<span v-if="twoZones" class="other">{{ sayZone(otherZone) }}</span>
        </th>
        <th v-for="hour in table.hours" :key="hour" scope="col">
          {{ sayHour(hour, locale) }}<span v-if="twoZones" class="other">{{ otherHour(hour, firstAhead) }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <template v-for="line in lines" :key="`${line.kind} ${line.kind === 'day' ? line.row.day : line.from}`">
        <tr v-if="line.kind === 'empty'" class="empty">
          <th scope="row">
            {{ sayWeekday(line.from, 'short', locale) }}{{ line.to > line.from ? ` to ${sayWeekday(line.to, 'short', locale)} ` : ' ' }}<span class="date">{{ sayDate(line.to, 'short', locale) }}</span>
          </th>
          <td :colspan="Math.max(1, table.hours.length)">
            <button v-if="asks" type="button" class="nothing" @click="emit('ask', ...daysOf(line.from, line.to))">no times: why not?</button>
            <template v-else>no times</template>
          </td>
        </tr>
        <tr v-else-if="line.kind === 'ruler'" class="ruler">
          <th scope="row">
            <span class="other">{{ sayZone(otherZone) }}</span>
          </th>
          <td v-for="(hour, index) in table.hours" :key="hour">
            <span class="other">{{ otherHour(hour, line.ahead) }}</span>
            <span v-if="index === 0" class="note">clocks change: {{ sayZone(zone) }} now {{ sayDifference(zone, otherZone, line.from * 86400 + 43200) ?? 'level' }}</span>
          </td>
        </tr>
        <tr v-else>
          <th scope="row">
            {{ sayWeekday(line.row.day, 'short', locale) }} <span class="date">{{ sayDate(line.row.day, 'short', locale) }}</span>
          </th>
          <td v-for="cell in line.row.cells" :key="cell.hour" :class="{ taken: hatches.size > 0 && hatches.has(hourOf(line.row.day, cell.hour)[0]) }" :style="hatches.size > 0 ? hatch(line.row.day, cell.hour) : undefined">
            <button
              v-if="asks && cell.departures.length === 0" type="button" class="nothing place" tabindex="-1" :data-at="hourOf(line.row.day, cell.hour)[0]"
              :aria-label="emptyWords(line.row.day, cell.hour)" @click="emit('ask', ...hourOf(line.row.day, cell.hour))"
            >?</button>
            <span v-else class="minutes">
              <button
                v-for="departure in cell.departures" :key="departure.at" type="button" :data-at="departure.at"
                :class="[departure.mark, { chosen: departure.at === chosen }]" :aria-label="fullTime(departure.at, departure.mark)"
                :aria-pressed="chosen === undefined ? undefined : departure.at === chosen" :tabindex="departure.at === entry ? 0 : -1"
                :disabled="departure.mark === 'gone' && !asks" @click="departure.mark === 'gone' ? emit('ask', departure.at, departure.at) : emit('choose', departure.at)"
              >{{ String(departure.minute).padStart(2, '0') }}</button>
            </span>
          </td>
        </tr>
      </template>
    </tbody>
  </table>
</template>

<style src="./timetable.css"></style>
