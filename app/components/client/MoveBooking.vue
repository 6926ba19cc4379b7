<script setup lang="ts">
import { texts } from '~/locales/client'
import { formatInstant, instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatList, formatTime, formatZone, zoneDifference } from '~~/core/time/format'
import type { ClientPageView } from '~~/core/views/client'
import TimesToChoose from '~/components/timetable/TimesToChoose.vue'
import { useEventTypeOpenings, useTurnedOpenings } from '~/composables/event-type-openings'
import { problemOf } from '~/composables/problem'

/** Another time for a booking, from the same timetable as the first one. */

const props = defineProps<{ path: string, page: ClientPageView, locale: string, now: number }>()
const emit = defineEmits<{ moved: [], keep: [] }>()

const openings = useEventTypeOpenings(props.path, props.now, () => ({}))
const zone = computed(() => props.page.booking.timeZone)
const length = computed(() => instantToSeconds(props.page.booking.end) - instantToSeconds(props.page.booking.start))
const { starts, firstDay, isAtStart, fault: loadFault, begin, turn, reload } = useTurnedOpenings(openings)
onMounted(begin)
const chosen = ref<number | null>(null)
const fault = ref('')
const sending = ref(false)

function choose(at: number): void {
  chosen.value = at
  fault.value = ''
}

const whole = (at: number, inZone: string) => texts.dayFromTo(
  formatDay(at, inZone, props.locale, props.now), formatTime(at, inZone, props.locale), formatTime(at + length.value, inZone, props.locale),
)
const hostClock = computed(() => (chosen.value !== null && zoneDifference(props.page.hostZone, zone.value, chosen.value) !== 0
  ? texts.timeInZone(formatTime(chosen.value, props.page.hostZone, props.locale), formatZone(props.page.hostZone)) : ''))

async function move(): Promise<void> {
  if (chosen.value === null) return
  sending.value = true
  fault.value = ''
  try {
    await $fetch(`${props.path}/move`, { method: 'POST', body: { start: formatInstant(chosen.value) } })
    emit('moved')
  } catch (error) {
    fault.value = problemOf(error).message
    // Somebody was quicker: the times as they are now.
    await reload()
    if (chosen.value !== null && !starts.value?.includes(chosen.value)) chosen.value = null
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <section class="move" :aria-label="texts.moveThisBooking">
    <p v-if="starts === null && !loadFault" class="quiet">{{ texts.lookingForTimes }}</p>
    <p v-else-if="starts?.length === 0 && isAtStart" class="none">{{ texts.noOtherTimes(formatList(page.booking.hosts)) }}</p>
    <TimesToChoose
      v-else-if="starts" :starts="starts" :first-day="firstDay" :is-at-start="isAtStart" :zone="zone" :other-zone="page.hostZone"
      :locale="locale" :now="now" :chosen="chosen" :title="texts.chooseTheNewTime(formatZone(zone))" :fault="''" @choose="choose" @turn="turn"
    />
    <div class="decide">
      <div v-if="chosen !== null" class="chosen">
        <p><span class="quiet">{{ texts.newTime }}</span> <strong>{{ whole(chosen, zone) }}</strong><span v-if="hostClock" class="quiet">, {{ hostClock }}</span></p>
        <p v-if="openings.withOtherHosts.has(chosen)">{{ texts.anotherHostTakesIt(formatList(page.booking.hosts)) }}</p>
      </div>
      <p v-if="fault || loadFault" class="broken" role="alert">{{ fault || loadFault }}</p>
      <div class="actions">
        <button type="button" class="press" :disabled="chosen === null || sending" @click="move">{{
          chosen === null ? texts.moveThisBooking : texts.moveTo(formatDay(chosen, zone, locale, now), formatTime(chosen, zone, locale))
        }}</button>
        <button type="button" class="word" @click="emit('keep')">{{ texts.keepTheTime }}</button>
      </div>
    </div>
  </section>
</template>

<style src="./actions.css"></style>

<style scoped>
.move {
  border-top: 1px solid var(--line);
  margin-top: 18px;
}

.actions {
  margin-top: 10px;
}

/* What was chosen is confirmed where it can be seen, however long the timetable is. */
.decide {
  position: sticky;
  bottom: 0;
  background: var(--surface);
  padding: 12px 0;
}

.chosen {
  border-left: 3px solid var(--marigold);
  padding: 2px 14px;
}
</style>
