<script setup lang="ts">
import type { HolidayDates, StoredPlan } from '~~/core/hours/plan'
import { formatZone } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
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
const zoneChoices = computed(() => [...new Set([plan.value.timeZone, ...props.zones, ...Intl.supportedValuesOf('timeZone')])])

function setValid(end: 'from' | 'to', event: Event): void {
  if (event.target instanceof HTMLInputElement)
    plan.value = { ...plan.value, valid: { ...plan.value.valid, [end]: event.target.value || null } }
}

function setZone(event: Event): void {
  if (event.target instanceof HTMLSelectElement) plan.value = { ...plan.value, timeZone: event.target.value }
}
</script>

<template>
  <div class="plan-editor">
    <section aria-labelledby="plan-week">
      <h2 id="plan-week">The week</h2>
      <WeekPainter wide :model-value="plan.weekly" :disabled="disabled" @update:model-value="plan = { ...plan, weekly: $event }" />
      <TypedHours
        :model-value="plan.weekly" :zone-name="formatZone(plan.timeZone)" :disabled="disabled"
        @update:model-value="plan = { ...plan, weekly: $event }" @unread="emit('unread', $event)"
      />
    </section>
    <section aria-labelledby="plan-recurring">
      <h2 id="plan-recurring">Recurring windows</h2>
      <RecurringWindows v-model="plan" :today="today" :locale="locale" :disabled="disabled" />
    </section>
    <section aria-labelledby="plan-dates">
      <h2 id="plan-dates">Single dates</h2>
      <YearStrip v-model="plan" :holidays="holidays" :today="today" :locale="locale" :disabled="disabled" />
    </section>
    <section aria-labelledby="plan-holidays">
      <h2 id="plan-holidays">Holidays</h2>
      <HolidayPicker v-model="plan" v-model:holidays="holidays" :today="today" :locale="locale" :disabled="disabled" />
    </section>
    <section aria-labelledby="plan-zone">
      <h2 id="plan-zone">Zone and dates it holds for</h2>
      <p class="line">
        <label>Zone <select :value="plan.timeZone" :disabled="disabled" @change="setZone"><option v-for="zone in zoneChoices" :key="zone" :value="zone">{{ zone.replaceAll('_', ' ').replaceAll('/', ' / ') }}</option></select></label>
        <label>holds from <input type="date" :value="plan.valid.from" :disabled="disabled" @input="setValid('from', $event)"></label>
        <label>to <input type="date" :value="plan.valid.to" :disabled="disabled" @input="setValid('to', $event)"></label>
        <span class="quiet">Leave empty for no end date.</span>
      </p>
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
  align-items: baseline;
  gap: 8px 16px;
}

.line select,
.line input {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 4px 6px;
  max-width: 16rem;
}
</style>
