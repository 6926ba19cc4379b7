<script setup lang="ts">
import type { Settings } from '~~/core/event-type/settings'
import type { Horizon } from '~~/core/openings'
import NumberField from './NumberField.vue'

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

const kinds: { kind: Horizon['kind'], label: string }[] = [
  { kind: 'rolling', label: 'A number of days ahead' },
  { kind: 'rollingWorkingDays', label: 'A number of working days ahead' },
  { kind: 'dates', label: 'Between two dates' },
  { kind: 'open', label: 'As far ahead as clients like' },
]
const PRESET_DAYS = 30

function set(horizon: Horizon): void {
  settings.value = { ...settings.value, horizon }
}

function turn(kind: Horizon['kind']): void {
  const days = 'days' in settings.value.horizon ? settings.value.horizon.days : PRESET_DAYS
  switch (kind) {
    case 'open': return set({ kind })
    case 'rolling': return set({ kind, days })
    case 'rollingWorkingDays': return set({ kind, days, holidays: [] })
    case 'dates': return set({ kind, from: null, to: null })
  }
}

const days = computed({
  get: () => ('days' in settings.value.horizon ? settings.value.horizon.days : PRESET_DAYS),
  set: value => 'days' in settings.value.horizon && set({ ...settings.value.horizon, days: value }),
})

function setDate(end: 'from' | 'to', event: Event): void {
  const { horizon } = settings.value
  if (horizon.kind === 'dates' && event.target instanceof HTMLInputElement) set({ ...horizon, [end]: event.target.value || null })
}
</script>

<template>
  <div>
    <fieldset class="choices">
      <legend class="visually-hidden">How far ahead can clients book?</legend>
      <label v-for="choice in kinds" :key="choice.kind"><input type="radio" name="horizon" :checked="settings.horizon.kind === choice.kind" @change="turn(choice.kind)"> {{ choice.label }}</label>
    </fieldset>
    <NumberField
      v-if="'days' in settings.horizon" v-model="days"
      :label="settings.horizon.kind === 'rolling' ? 'Days ahead' : 'Working days ahead'" unit="days"
      :error="errors['horizon.days']"
    />
    <template v-if="settings.horizon.kind === 'dates'">
      <label class="date">First date <input type="date" :value="settings.horizon.from" @input="setDate('from', $event)"></label>
      <label class="date">Last date <input type="date" :value="settings.horizon.to" @input="setDate('to', $event)"></label>
      <p v-if="errors['horizon.to']" class="broken">{{ errors['horizon.to'] }}</p>
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
