<script setup lang="ts">
import { texts } from '~/locales/hours'
import type { HolidayDates, StoredPlan } from '~~/core/hours/plan'
import { formatZone } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import DateField from '~/components/fields/DateField.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import HolidayPicker from './HolidayPicker.vue'
import RecurringWindows from './RecurringWindows.vue'
import TypedHours from './TypedHours.vue'
import WeekPainter from './WeekPainter.vue'
import YearStrip from './YearStrip.vue'

/** All of an hours plan: the week, what recurs, single dates, holidays, its zone and how long it holds. */

const props = defineProps<{
  now: number
  locale: string
  zones: readonly string[]
  errors: Readonly<Record<string, string>>
  disabled?: boolean
}>()
const plan = defineModel<StoredPlan>({ required: true })
const holidays = defineModel<HolidayDates>('holidays', { required: true })
const emit = defineEmits<{ unread: [message: string | null] }>()

const today = computed(() => zoneOf(plan.value.timeZone).dayOf(props.now))
const valid = (end: 'from' | 'to') => computed({
  get: () => plan.value.valid[end] ?? '',
  set: date => (plan.value = { ...plan.value, valid: { ...plan.value.valid, [end]: date || null } }),
})
const [validFrom, validTo] = [valid('from'), valid('to')]
const timeZone = computed({ get: () => plan.value.timeZone, set: zone => (plan.value = { ...plan.value, timeZone: zone }) })
const calendars = computed({ get: () => plan.value.holidays, set: chosen => (plan.value = { ...plan.value, holidays: [...chosen] }) })
</script>

<template>
  <div class="plan-editor">
    <section aria-labelledby="plan-week">
      <h2 id="plan-week">{{ texts.theWeek }}</h2>
      <WeekPainter wide :model-value="plan.weekly" :disabled="disabled" @update:model-value="plan = { ...plan, weekly: $event }" />
      <TypedHours
        :model-value="plan.weekly" :zone-name="formatZone(plan.timeZone)" :disabled="disabled"
        @update:model-value="plan = { ...plan, weekly: $event }" @unread="emit('unread', $event)"
      />
    </section>
    <section aria-labelledby="plan-recurring">
      <h2 id="plan-recurring">{{ texts.recurringHours }}</h2>
      <RecurringWindows v-model="plan" :today="today" :locale="locale" :disabled="disabled" />
    </section>
    <section aria-labelledby="plan-dates">
      <h2 id="plan-dates">{{ texts.singleDates }}</h2>
      <YearStrip v-model="plan" :holidays="holidays" :today="today" :locale="locale" :disabled="disabled" />
    </section>
    <section aria-labelledby="plan-holidays">
      <h2 id="plan-holidays">{{ texts.holidays }}</h2>
      <HolidayPicker
        v-model="calendars" v-model:holidays="holidays" :today="today" :locale="locale" :disabled="disabled"
        :none="texts.noHolidays"
      />
    </section>
    <section aria-labelledby="plan-zone">
      <h2 id="plan-zone">{{ texts.timeZoneFirstAndLastDate }}</h2>
      <div class="line">
        <ZoneField v-model="timeZone" class="zone" :label="texts.timeZone" :locale="locale" :now="now" :near="zones" :disabled="disabled" />
        <DateField v-model="validFrom" class="date" :label="texts.firstDate" clearable :locale="locale" :disabled="disabled" />
        <DateField v-model="validTo" class="date" :label="texts.lastDate" clearable :locale="locale" :disabled="disabled" />
      </div>
      <p class="quiet hint">{{ texts.leaveEmptyForNoEndDate }}</p>
      <p v-for="(message, path) in errors" :key="path" class="broken" role="alert">{{ message }}</p>
    </section>
  </div>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  padding: 16px 0 18px;
}

section:first-child {
  border-top: 0;
  padding-top: 0;
}

h2 {
  font-size: 17px;
  margin-bottom: 10px;
}

.plan-editor :deep(.field) {
  margin-top: 12px;
  max-width: 720px;
}

.plan-editor :deep(.field > label) {
  display: block;
  font-weight: 600;
  margin-bottom: 4px;
}

.plan-editor :deep(.hint) {
  font-size: 12.5px;
  margin-top: 5px;
}

.line {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 8px 16px;
}

.zone {
  flex: 0 0 260px;
}

.date {
  flex: 0 0 240px;
}
</style>
