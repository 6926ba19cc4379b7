<script setup lang="ts">
import { texts } from '~/locales/connections'
import { formatTime } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import type { TakenView } from '~~/core/views/calendars'
import { useCalls } from '~/composables/calls'
import { useDesk } from '~/stores/desk'

/** What takes a host's time tomorrow, on a line of the day. */

const props = defineProps<{ hostId: string, whose: string, version: number }>()
const desk = useDesk()
const { read, fault } = useCalls()
const taken = shallowRef<TakenView['times']>([])
const isKnown = ref(false)

const HOUR = 3600
const [USUAL_START, USUAL_END] = [8, 18]
const tomorrow = computed(() => zoneOf(desk.zone).dayOf(desk.now) + 1)
const from = computed(() => zoneOf(desk.zone).startOfDay(tomorrow.value))
const to = computed(() => zoneOf(desk.zone).startOfDay(tomorrow.value + 1))

watch([() => props.hostId, () => props.version, from], async () => {
  const found = await read(() => $fetch<TakenView>(`/api/desk/hosts/${props.hostId}/taken`, { query: { from: from.value, to: to.value } }))
  taken.value = found?.times ?? []
  isKnown.value = found !== null
}, { immediate: true })

/** The usual day, and as much more of it as is taken. */
const timed = computed(() => taken.value.filter(time => !time.isWholeDay))
const start = computed(() => Math.min(from.value + USUAL_START * HOUR, ...timed.value.map(time => Math.floor(time.start / HOUR) * HOUR)))
const end = computed(() => Math.max(from.value + USUAL_END * HOUR, ...timed.value.map(time => Math.ceil(time.end / HOUR) * HOUR)))
const share = (instant: number) => (Math.min(Math.max(instant, start.value), end.value) - start.value) / (end.value - start.value) * 100
const hours = computed(() =>
  Array.from({ length: Math.floor((end.value - start.value) / HOUR / 2) + 1 }, (_, index) => start.value + index * 2 * HOUR))

const words = computed(() => taken.value.map((time) => {
  const what = time.title === '' ? texts.untitled : time.title ?? time.calendar ?? ''
  return { key: `${time.start} ${time.end} ${what}`, when: time.isWholeDay ? texts.allDay : formatTime(time.start, desk.zone, desk.locale), what }
}))
</script>

<template>
  <section class="strip">
    <p>{{ texts.tomorrowFrom(whose) }}</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template v-if="isKnown">
      <div class="line" aria-hidden="true">
        <i
          v-for="(time, index) in taken" :key="index" :class="{ session: time.calendar === null }"
          :style="{ left: `${share(time.start)}%`, width: `${Math.max(0.4, share(time.end) - share(time.start))}%` }"
        />
        <span v-for="hour in hours" :key="hour" class="hour" :style="{ left: `${share(hour)}%` }">{{ formatTime(hour, desk.zone, desk.locale) }}</span>
      </div>
      <p v-if="words.length === 0" class="quiet">{{ texts.nothingTomorrow }}</p>
      <ul v-else>
        <li v-for="word in words" :key="word.key" dir="auto"><b>{{ word.when }}</b> {{ word.what }}</li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.strip {
  background: var(--surface);
  border: 1px solid var(--line);
  border-left: 3px solid var(--marigold);
  border-radius: var(--corner);
  padding: 12px 18px;
}

.line {
  position: relative;
  height: 22px;
  margin: 8px 0 22px;
  border: 1px solid var(--line);
  border-radius: 4px;
}

i {
  position: absolute;
  top: 0;
  bottom: 0;
  background: repeating-linear-gradient(135deg, var(--hatch) 0 1.5px, transparent 1.5px 6px);
}

i.session {
  background: var(--aubergine-tint);
  border: 1px solid var(--aubergine-soft);
}

.hour {
  position: absolute;
  top: 24px;
  transform: translateX(-50%);
  font-size: 11px;
  color: var(--quiet);
}

.hour:first-of-type {
  transform: none;
}

.hour:last-of-type {
  transform: translateX(-100%);
}

ul {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 13px;
}

b {
  font-weight: 600;
  margin-right: 2px;
}
</style>
