<script setup lang="ts">
import { VDateInput } from 'vuetify/components'
import { DAY, formatDate, parseDate } from '~~/core/time/civil'
import { formatFullDate, formatWeekday } from '~~/core/time/format'

/** A date, picked or typed as the reader writes dates; the model is `YYYY-MM-DD`, empty for none. */

const props = defineProps<{
  locale: string
  label?: string
  disabled?: boolean
  clearable?: boolean
  errorMessages?: string | readonly string[]
}>()
const date = defineModel<string>({ required: true })

/** The picker works with moments of the browser's zone: noon keeps the date in all of them. */
const picked = computed({
  get: () => {
    const day = parseDate(date.value)
    if (day === null) return null
    const utc = new Date(day * DAY * 1000)
    return new Date(utc.getUTCFullYear(), utc.getUTCMonth(), utc.getUTCDate(), 12)
  },
  set: (value: unknown) => {
    date.value = value instanceof Date ? formatDate(Date.UTC(value.getFullYear(), value.getMonth(), value.getDate()) / (DAY * 1000)) : ''
  },
})
/** The date in words, so that nobody takes the day for the month. */
const words = computed(() => {
  const day = parseDate(date.value)
  return day === null ? '' : `${formatWeekday(day, 'long', props.locale)} ${formatFullDate(day, props.locale)}`
})
</script>

<template>
  <VDateInput
    v-model="picked" class="date-field" :label="label" :readonly="disabled" :hint="words" persistent-hint :clearable="clearable" hide-details="auto"
    :error-messages="errorMessages ?? []" :first-day-of-week="1"
  />
</template>
