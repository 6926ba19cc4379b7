<script setup lang="ts">
import { texts } from '~/locales/desk'
import { VTextField } from 'vuetify/components'
import { formatClock, parseClock } from '~~/core/time/civil'
import { readClock } from '~~/core/time/clock'
import { formatEndOfWindow, formatTimeOfDay } from '~~/core/time/format'

/** A time of day, typed as people write it and shown back in their own way; the model is `HH:MM`, or empty where it cannot be read. */

const props = defineProps<{ locale: string, asEnd?: boolean, label?: string }>()
const model = defineModel<string>({ required: true })

const typed = ref(shown(model.value))
const example = computed(() => formatTimeOfDay(570, props.locale))
const isUnread = computed(() => model.value === '')

function shown(clock: string): string {
  const minutes = parseClock(clock, props.asEnd)
  return minutes === null ? '' : props.asEnd ? formatEndOfWindow(minutes, props.locale) : formatTimeOfDay(minutes, props.locale)
}

function set(minutes: number | null): void {
  model.value = minutes === null ? '' : formatClock(minutes)
}

function read(text: string): void {
  typed.value = text
  set(readClock(typed.value, props.asEnd))
}

function tidy(): void {
  if (!isUnread.value) typed.value = shown(model.value)
}

/** The arrow keys go by quarters of an hour. */
function step(by: number): void {
  const minutes = parseClock(model.value, props.asEnd)
  if (minutes === null) return
  const next = by > 0 ? Math.floor(minutes / by) * by + by : Math.ceil(minutes / by) * by + by
  set(Math.min(Math.max(next, 0), props.asEnd ? 1440 : 1425))
  tidy()
}

watch(model, clock => (readClock(typed.value, props.asEnd) === parseClock(clock, props.asEnd) ? undefined : (typed.value = shown(clock))))
</script>

<template>
  <VTextField
    class="clock" autocomplete="off" spellcheck="false" :model-value="typed" :error="isUnread" :label="label"
    :title="texts.aTimeOfDaySuchAs(example)" hide-details
    @update:model-value="read" @blur="tidy" @keydown.up.prevent="step(15)" @keydown.down.prevent="step(-15)"
  />
</template>

<style scoped>
.clock {
  flex: none;
  width: 7.4rem;
}
</style>
