<script setup lang="ts">
import { texts } from '~/locales/timetable'
import { DAY } from '~~/core/time/civil'
import { nextClockChange, formatDay, formatMonthDay, formatZone } from '~~/core/time/format'
import { startsByDay } from '~~/core/timetable/suggestions'
import PhoneTimetable from './PhoneTimetable.vue'
import TimeTable from './TimeTable.vue'
import { VIEW_DAYS } from '~/composables/event-type-openings'

/** The timetable of some days, turned back and forth; times at night are folded away until asked for. */

const props = defineProps<{
  starts: readonly number[]
  firstDay: number
  /** Whether there is nothing before these days. */
  isAtStart: boolean
  zone: string
  otherZone: string
  locale: string
  now: number
  chosen: number | null
  title: string
  fault: string
}>()
const emit = defineEmits<{ choose: [at: number], turn: [views: number] }>()

const lastDay = computed(() => props.firstDay + VIEW_DAYS - 1)
const nightShown = ref(false)
const byDay = computed(() => startsByDay(props.starts, props.zone))
const nightCount = computed(() => props.starts.length - byDay.value.length)
const shown = computed(() => (nightShown.value ? props.starts : byDay.value))
const departures = computed(() => shown.value.map(at => ({ at, mark: 'stays' as const })))
const plain = computed(() => shown.value.map(at => ({ at, mark: undefined })))

const clockChange = computed(() => {
  for (const item of new Set([props.zone, props.otherZone])) {
    const change = nextClockChange(item, props.firstDay * DAY, (lastDay.value + 1) * DAY)
    if (change)
      return texts.clockChangeAhead(formatDay(change.at, item, props.locale, props.now), formatZone(item), change.minutes > 0 ? 'forward' : 'back')
  }
  return ''
})
</script>

<template>
  <div class="times-head">
    <h2>{{ title }}</h2>
    <span class="turn">
      <button type="button" class="word" :disabled="isAtStart" @click="emit('turn', -1)">{{ texts.earlier }}</button>
      {{ texts.daysFromTo(formatMonthDay(firstDay, 'short', locale), formatMonthDay(lastDay, 'short', locale)) }}
      <button type="button" class="word" @click="emit('turn', 1)">{{ texts.later }}</button>
    </span>
  </div>
  <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
  <p v-if="starts.length === 0" class="none">{{ texts.noTimesFromTo(formatMonthDay(firstDay, 'long', locale), formatMonthDay(lastDay, 'long', locale)) }}</p>
  <TimeTable
    v-else class="wide" :departures="departures" :zone="zone" :other-zone="otherZone" :first-day="firstDay" :days="VIEW_DAYS"
    :locale="locale" :chosen="chosen" :caption="texts.timesByDayAndHour" @choose="emit('choose', $event)"
  />
  <PhoneTimetable
    v-if="starts.length > 0" class="narrow" :departures="plain" :zone="zone" :other-zone="otherZone"
    :first-day="firstDay" :days="VIEW_DAYS"
    :locale="locale" :chosen="chosen" @choose="emit('choose', $event)"
  />
  <p v-if="nightCount > 0" class="foot">
    <button type="button" class="word" :aria-expanded="nightShown" @click="nightShown = !nightShown">
      {{ nightShown ? texts.hideTheTimesAtNight : texts.alsoShowAtNight(texts.timeCount(nightCount)) }}
    </button>
  </p>
  <p class="foot wide quiet">{{ texts.readingTheTimetable(clockChange) }}</p>
  <p v-if="clockChange" class="foot narrow quiet">{{ clockChange }}</p>
</template>

<style src="./times.css"></style>
