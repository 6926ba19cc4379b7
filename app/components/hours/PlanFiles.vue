<script setup lang="ts">
import { texts } from '~/locales/hours'
import { formatAvailabilityFault } from '~~/core/catalogue/hours'
import type { HolidayDates, StoredPlan } from '~~/core/hours/plan'
import { saveFile } from '~/composables/save-file'

/** An hours plan out to a calendar file and in from one (RFC 7953). What is read replaces the plan on the screen alone. */

const props = defineProps<{ name: string, id: string, now: number, holidays: HolidayDates, disabled?: boolean }>()
const plan = defineModel<StoredPlan>({ required: true })

const MOST_BYTES = 1_000_000
const file = useTemplateRef<HTMLInputElement>('file')
const fault = ref('')
const done = ref('')

async function exportFile(): Promise<void> {
  const { writeAvailability } = await import('~~/core/calendar/availability')
  saveFile(
    `${props.name || 'hours'}.ics`,
    'text/calendar',
    writeAvailability(props.name, plan.value, props.holidays, props.id, new Date(props.now * 1000).toISOString()),
  )
}

async function importFile(): Promise<void> {
  const chosen = file.value?.files?.[0]
  if (!chosen) return
  fault.value = done.value = ''
  const { readAvailability, AvailabilityError } = await import('~~/core/calendar/availability')
  try {
    if (chosen.size > MOST_BYTES) throw new AvailabilityError({ code: 'tooLarge' })
    const read = readAvailability(await chosen.text(), plan.value.timeZone)
    plan.value = { ...read.plan, holidays: plan.value.holidays }
    done.value = texts.readFromAFile(chosen.name)
  } catch (error) {
    if (!(error instanceof AvailabilityError)) throw error
    fault.value = `${chosen.name}: ${formatAvailabilityFault(error.fault)}`
  } finally {
    if (file.value) file.value.value = ''
  }
}
</script>

<template>
  <LinkButton @click="exportFile">{{ texts.saveAsACalendarFile }}</LinkButton>
  <template v-if="!disabled">
    <LinkButton @click="file?.click()">{{ texts.readFromACalendarFile }}</LinkButton>
    <input ref="file" type="file" class="file" :aria-label="texts.calendarFile" accept=".ics,text/calendar" @change="importFile">
  </template>
  <span v-if="done" role="status">{{ done }}</span>
  <span v-if="fault" class="broken" role="alert">{{ fault }}</span>
</template>

<style scoped>
.file {
  display: none;
}
</style>
