<script setup lang="ts">
import { texts } from '~/locales/timetable'
import { DAY } from '~~/core/time/civil'
import { formatMonthDay, formatDay, formatTime, formatWeekday } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import type { TimetableCell, TimetableRow } from '~~/core/timetable'
import type { Mark } from '~~/core/timetable/marks'

/** One day of the timetable. Its buttons are count, so the table listens for all of them. */

/** A part of an hour, in hundredths. */
export interface Strip {
  from: number
  to: number
}

const props = defineProps<{
  row: TimetableRow<Mark>
  zone: string
  locale: string
  chosen: number | null | undefined
  /** The one button that the tab key reaches. */
  entry: number | null
  /** Places without a start can be asked about. */
  asks: boolean
  /** Taken time by the instant of an hour. */
  strips: ReadonlyMap<number, readonly Strip[]>
}>()

/** Where members look on, an hour with more starts than this shows their number. */
const MOST_IN_CELL = 12
const isCrowded = (cell: TimetableCell<Mark>) => props.asks && cell.departures.length > MOST_IN_CELL
const countOf = (cell: TimetableCell<Mark>, mark: Mark) => cell.departures.filter(departure => departure.mark === mark).length
const crowdOf = (cell: TimetableCell<Mark>) =>
  (['stays', 'new', 'gone'] as const).map(mark => ({ mark, count: countOf(cell, mark) })).filter(({ count }) => count > 0)

const dayWords = computed(() => {
  const noon = zoneOf(props.zone).startOfDay(props.row.day) + DAY / 2
  return formatDay(noon, props.zone, props.locale, noon)
})

/** The hour of the local date that a cell stands for, as an instant. */
const hourAt = (hour: number) => zoneOf(props.zone).toInstant(props.row.day * DAY + hour * 3600)

const NONE: readonly Strip[] = []
const stripsOf = (hour: number) => (props.strips.size > 0 ? props.strips.get(hourAt(hour)) ?? NONE : NONE)

/** What stands in an hour with starts, in the order of time: minutes, and hatching where time is taken. */
type Item = { kind: 'start', departure: TimetableCell<Mark>['departures'][number] } | { kind: 'taken', strip: Strip }
function itemsOf(cell: TimetableCell<Mark>): Item[] {
  const at = (item: Item) => (item.kind === 'start' ? item.departure.minute / 0.6 : item.strip.from)
  return [
    ...cell.departures.map(departure => ({ kind: 'start' as const, departure })),
    ...stripsOf(cell.hour).map(strip => ({ kind: 'taken' as const, strip })),
  ].sort((a, b) => at(a) - at(b))
}
/** Without starts, hatching takes its part of the whole hour. */
const isHatched = (cell: TimetableCell<Mark>) => cell.departures.length === 0 || isCrowded(cell)

function fullTime(at: number, mark: Mark): string {
  const time = `${dayWords.value}, ${formatTime(at, props.zone, props.locale)}`
  return mark === 'stays' ? time : `${time}, ${mark}`
}

const emptyWords = (hour: number) => texts.nothingFromWhyNot(dayWords.value, formatTime(hourAt(hour), props.zone, props.locale))

/** What a cell shows, so that one that shows the same is left as it is. */
function memoOf(cell: TimetableCell<Mark>): string {
  const starts = isCrowded(cell)
    ? crowdOf(cell).map(({ mark, count }) => `${count}${mark}`).join()
    : cell.departures.map(({ at, mark }) => `${at}${mark}${at === props.chosen ? 'chosen' : ''}${at === props.entry ? 'entry' : ''}`).join()
  return `${starts} ${stripsOf(cell.hour)
    .map(({ from, to }) => `${from}-${to}`)
    .join()} ${props.asks} ${props.zone} ${props.locale} ${props.row.day}`
}
</script>

<template>
  <tr>
    <th scope="row">
      {{ formatWeekday(row.day, 'short', locale) }} <span class="date">{{ formatMonthDay(row.day, 'short', locale) }}</span>
    </th>
    <td v-for="cell in row.cells" :key="cell.hour" v-memo="[memoOf(cell)]" :class="{ taken: stripsOf(cell.hour).length > 0 }">
      <template v-if="isHatched(cell)">
        <i v-for="{ from, to } in stripsOf(cell.hour)" :key="from" class="strip" :style="{ left: `${from}%`, width: `${to - from}%` }" />
      </template>
      <button
        v-if="asks && cell.departures.length === 0" type="button" class="nothing place" tabindex="-1"
        :data-at="hourAt(cell.hour)" :data-until="hourAt(cell.hour + 1)" :aria-label="emptyWords(cell.hour)"
      >?</button>
      <span v-else-if="isCrowded(cell)" class="crowd"><span v-for="{ mark, count } in crowdOf(cell)" :key="mark" :class="mark">{{ count }} {{ mark === 'stays' ? texts.starts : mark }}</span></span>
      <span v-else class="minutes">
        <template v-for="item in itemsOf(cell)" :key="item.kind === 'start' ? item.departure.at : `taken ${item.strip.from}`">
          <i v-if="item.kind === 'taken'" class="between" :style="{ flexGrow: item.strip.to - item.strip.from }" />
          <button
            v-else type="button" :data-at="item.departure.at"
            :class="[item.departure.mark, { chosen: item.departure.at === chosen }]"
            :aria-label="fullTime(item.departure.at, item.departure.mark)"
            :aria-pressed="chosen === undefined ? undefined : item.departure.at === chosen"
            :tabindex="item.departure.at === entry ? 0 : -1" :disabled="item.departure.mark === 'gone' && !asks"
          >{{ String(item.departure.minute).padStart(2, '0') }}</button>
        </template>
      </span>
    </td>
  </tr>
</template>
