<script setup lang="ts">
import { DAY, formatDate, parseClock, parseDate } from '~~/core/time/civil'
import { zoneOf } from '~~/core/time/zone'
import ClockField from '~/components/desk/ClockField.vue'

/** Asks about any time at all, also one that the timetable has folded away. */

const props = defineProps<{ zone: string, locale: string, now: number }>()
const emit = defineEmits<{ ask: [at: number], save: [] }>()

const date = ref(formatDate(zoneOf(props.zone).dayOf(props.now) + 1))
const time = ref('10:00')
const fault = ref('')

function ask(): void {
  const [day, minutes] = [parseDate(date.value), parseClock(time.value)]
  fault.value = day === null || minutes === null ? 'Write a date and a time of day' : ''
  if (day !== null && minutes !== null) emit('ask', zoneOf(props.zone).toInstant(day * DAY + minutes * 60))
}
</script>

<template>
  <form class="ask-time" @submit.prevent="ask">
    <label for="ask-date">Press an empty place to ask why not, or ask about</label>
    <input id="ask-date" v-model="date" type="date">
    <label for="ask-clock">at<span class="visually-hidden"> the time of day</span></label>
    <ClockField id="ask-clock" v-model="time" :locale="locale" />
    <LinkButton type="submit">Ask</LinkButton>
    <span v-if="fault" class="broken" role="alert">{{ fault }}</span>
    <LinkButton class="save" @click="emit('save')">Save this as a case</LinkButton>
  </form>
</template>

<style scoped>
.ask-time {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 6px 8px;
  margin-top: 14px;
  font-size: 13px;
}

input {
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 3px 6px;
}

.save {
  margin-left: auto;
}
</style>
