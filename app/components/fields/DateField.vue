<script setup lang="ts">
import { VMenu, VTextField } from 'vuetify/components'
import { mdiCalendarBlank } from '@mdi/js'
import { DAY, formatDate, parseDate } from '~~/core/time/civil'
import { dateOfText, showDate } from '~~/core/time/date-text'
import { formatFullDate, formatWeekday } from '~~/core/time/format'
import { texts } from '~/locales/common'

/** A date, picked or typed in figures as the reader writes them; the model is `YYYY-MM-DD`, empty for none. */

const props = defineProps<{
  id?: string
  locale: string
  label?: string
  disabled?: boolean
  clearable?: boolean
  errorMessages?: string | readonly string[]
}>()
/** It is large, and needed only once it is opened. */
const VDatePicker = defineAsyncComponent(async () => (await import('vuetify/components/VDatePicker')).VDatePicker)

const date = defineModel<string>({ required: true })

const typed = ref(showDate(date.value, props.locale))
const open = ref(false)
const field = useTemplateRef<InstanceType<typeof VTextField>>('field')
const isUnread = computed(() => dateOfText(typed.value, props.locale) === null)

/** The date in words, so that nobody takes the day for the month. */
const words = computed(() => {
  const day = parseDate(date.value)
  return day === null ? '' : `${formatWeekday(day, 'long', props.locale)} ${formatFullDate(day, props.locale)}`
})

watch(date, value => (dateOfText(typed.value, props.locale) === value ? undefined : (typed.value = showDate(value, props.locale))))

/** What cannot be read stays as it was typed, and is refused where the date is checked. */
function read(text: string | null): void {
  typed.value = text ?? ''
  date.value = dateOfText(typed.value, props.locale) ?? typed.value
}

/** The picker works with moments of the browser's zone: noon keeps the date in all of them. */
const picked = computed(() => {
  const day = parseDate(date.value)
  if (day === null) return null
  const utc = new Date(day * DAY * 1000)
  return new Date(utc.getUTCFullYear(), utc.getUTCMonth(), utc.getUTCDate(), 12)
})
function pick(value: unknown): void {
  open.value = false
  if (value instanceof Date) read(formatDate(Date.UTC(value.getFullYear(), value.getMonth(), value.getDate()) / (DAY * 1000)))
  typed.value = showDate(date.value, props.locale)
}
</script>

<template>
  <div>
    <VTextField
      :id="id" ref="field" :model-value="typed" :label="label" :readonly="disabled" :clearable="clearable"
      :hint="words" persistent-hint hide-details="auto" :error-messages="isUnread ? texts.dateUnread(showDate('2026-12-14', locale)) : errorMessages ?? []"
      :append-inner-icon="disabled ? '' : mdiCalendarBlank" autocomplete="off" @update:model-value="read"
      @click:append-inner="open = true"
    />
    <VMenu v-if="!disabled" v-model="open" :target="field?.$el" :close-on-content-click="false">
      <VDatePicker hide-header :first-day-of-week="1" :model-value="picked" @update:model-value="pick" />
    </VMenu>
  </div>
</template>
