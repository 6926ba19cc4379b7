<script setup lang="ts">
import { texts } from '~/locales/bench'
import { DAY, formatDate, parseClock, parseDate } from '~~/core/time/civil'
import { zoneOf } from '~~/core/time/zone'
import ClockField from '~/components/desk/ClockField.vue'
import DateField from '~/components/fields/DateField.vue'
import { useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'

/** Asks about any time at all, also one that the timetable has folded away. */

const props = defineProps<{ zone: string }>()
const emit = defineEmits<{ ask: [at: number], save: [] }>()
const desk = useDesk()
const bench = useBench()

const date = ref(formatDate(zoneOf(props.zone).dayOf(bench.now) + 1))
const time = ref('10:00')
const fault = ref('')

function ask(): void {
  const [day, minutes] = [parseDate(date.value), parseClock(time.value)]
  fault.value = day === null || minutes === null ? texts.enterADateAndATime : ''
  if (day !== null && minutes !== null) emit('ask', zoneOf(props.zone).toInstant(day * DAY + minutes * 60))
}
</script>

<template>
  <form class="ask-time" @submit.prevent="ask">
    <p>{{ texts.pressAnEmptyPlace }}</p>
    <DateField v-model="date" class="date" :label="texts.date" :locale="desk.locale" />
    <ClockField v-model="time" :label="texts.time" :locale="desk.locale" />
    <LinkButton type="submit">{{ texts.ask }}</LinkButton>
    <span v-if="fault" class="broken" role="alert">{{ fault }}</span>
    <LinkButton
      class="save" :title="texts.caseOfOpenings"
      @click="emit('save')"
    >{{ texts.saveThisAsACase }}</LinkButton>
  </form>
</template>

<style scoped>
.ask-time {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 8px 10px;
  margin-top: 14px;
  font-size: 13px;
}

.ask-time > :not(.v-input) {
  margin-top: 9px;
}

.date {
  flex: 0 0 230px;
}

.save {
  margin-left: auto;
}
</style>
