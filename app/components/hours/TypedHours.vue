<script setup lang="ts">
import { texts } from '~/locales/hours'
import { formatHoursTextError } from '~~/core/catalogue/hours'
import { VTextField } from 'vuetify/components'
import { formatHours, HoursTextError, parseHours, type WeeklyWindow } from '~~/core/time/hours-text'

/** The week as text, in the public opening_hours notation; what cannot be read stays as typed. */

const windows = defineModel<WeeklyWindow[]>({ required: true })
const emit = defineEmits<{ unread: [message: string | null] }>()
defineProps<{ zoneName: string, disabled?: boolean }>()
const id = useId()

const typed = ref(formatHours(windows.value))
const fault = ref('')
let sent = JSON.stringify(windows.value)

watch(windows, (value) => {
  const text = JSON.stringify(value)
  if (text === sent) return
  sent = text
  typed.value = formatHours(value)
  setFault('')
})

function setFault(message: string): void {
  fault.value = message
  emit('unread', message || null)
}

function read(text: string): void {
  typed.value = text
  try {
    const parsed = parseHours(text)
    sent = JSON.stringify(parsed)
    setFault('')
    windows.value = parsed
  } catch (error) {
    if (!(error instanceof HoursTextError)) throw error
    setFault(formatHoursTextError(error))
  }
}
</script>

<template>
  <div class="field">
    <label :for="id">{{ texts.hoursOfTheWeek }}</label>
    <VTextField
      :id="id" :model-value="typed" :readonly="disabled ?? false" :error-messages="fault || []" hide-details="auto"
      spellcheck="false" @update:model-value="read"
    />
    <p class="quiet hint">{{ texts.typedHoursHint(zoneName) }}</p>
  </div>
</template>
