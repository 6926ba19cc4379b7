<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VRadio, VRadioGroup } from 'vuetify/components'
import type { HolidayDates } from '~~/core/hours/plan'
import type { Settings, StoredHorizon } from '~~/core/event-type/settings'
import { zoneOf } from '~~/core/time/zone'
import DateField from '~/components/fields/DateField.vue'
import HolidayPicker from '~/components/hours/HolidayPicker.vue'
import { useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'
import NumberField from './NumberField.vue'

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })
const holidays = defineModel<HolidayDates>('holidays', { required: true })
const bench = useBench()
const desk = useDesk()

const kinds: { kind: StoredHorizon['kind'], label: string }[] = [
  { kind: 'rolling', label: texts.aNumberOfDaysAhead },
  { kind: 'rollingWorkingDays', label: texts.aNumberOfWorkingDaysAhead },
  { kind: 'dates', label: texts.betweenTwoDates },
  { kind: 'open', label: texts.asFarAheadAsClientsLike },
]
const PRESET_DAYS = 30

function set(horizon: StoredHorizon): void {
  settings.value = { ...settings.value, horizon }
}

/** Working days leave out the holidays that the hours already name, until others are chosen. */
const namedHolidays = computed(() => (settings.value.hours.mode === 'hosts' ? [] : settings.value.hours.plan.holidays))
const days = computed({
  get: () => ('days' in settings.value.horizon ? settings.value.horizon.days : PRESET_DAYS),
  set: value => 'days' in settings.value.horizon && set({ ...settings.value.horizon, days: value }),
})
const kind = computed({
  get: () => settings.value.horizon.kind,
  set: (kind) => {
    if (kind === 'open') set({ kind })
    else if (kind === 'rolling') set({ kind, days: days.value })
    else if (kind === 'rollingWorkingDays') set({ kind, days: days.value, holidays: namedHolidays.value })
    else set({ kind, from: null, to: null })
  },
})
const calendars = computed({
  get: () => (settings.value.horizon.kind === 'rollingWorkingDays' ? settings.value.horizon.holidays : []),
  set: chosen => settings.value.horizon.kind === 'rollingWorkingDays' && set({ ...settings.value.horizon, holidays: chosen }),
})
function setDate(end: 'from' | 'to', date: string): void {
  const { horizon } = settings.value
  if (horizon.kind === 'dates') set({ ...horizon, [end]: date || null })
}
const today = computed(() => zoneOf(settings.value.timeZone).dayOf(bench.now))
</script>

<template>
  <div>
    <VRadioGroup v-model="kind" :aria-label="texts.howFarAheadCanClientsBook">
      <VRadio v-for="choice in kinds" :key="choice.kind" :value="choice.kind" :label="choice.label" />
    </VRadioGroup>
    <NumberField
      v-if="'days' in settings.horizon" v-model="days"
      :label="settings.horizon.kind === 'rolling' ? texts.daysAhead : texts.workingDaysAhead" :unit="texts.daysUnit"
      :error="errors['horizon.days']"
    />
    <template v-if="settings.horizon.kind === 'rollingWorkingDays'">
      <p class="quiet hint">{{ texts.workingDaysHint }}</p>
      <HolidayPicker v-model="calendars" v-model:holidays="holidays" :today="today" :locale="desk.locale" :none="texts.noCountryChosen" />
    </template>
    <template v-if="settings.horizon.kind === 'dates'">
      <DateField
        class="date" :label="texts.firstDate" clearable :model-value="settings.horizon.from ?? ''" :locale="desk.locale"
        @update:model-value="setDate('from', $event)"
      />
      <DateField
        class="date" :label="texts.lastDate" clearable :model-value="settings.horizon.to ?? ''" :locale="desk.locale"
        :error-messages="errors['horizon.to'] ?? []" @update:model-value="setDate('to', $event)"
      />
    </template>
  </div>
</template>

<style scoped>
.choices {
  border: 0;
  padding: 0;
  margin: 0 0 14px;
  display: grid;
  gap: 8px;
}

.choices input {
  accent-color: var(--aubergine);
}

.date {
  display: block;
  margin-bottom: 10px;
}

.date input {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 6px 8px;
}
</style>
