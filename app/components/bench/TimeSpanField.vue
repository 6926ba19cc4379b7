<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VSelect, VTextField } from 'vuetify/components'

/** A length of time as people give it: a number and a unit; stored in minutes. */

const props = defineProps<{ label: string, error?: string | undefined }>()
const model = defineModel<number>({ required: true })
const id = useId()

const units = [['minutes', 1], ['hours', 60], ['days', 1440]] as const
type Unit = (typeof units)[number][0]
const sizeOf = (unit: Unit) => units.find(([name]) => name === unit)?.[1] ?? 1

const unit = ref<Unit>([...units].reverse().find(([, size]) => model.value >= size && model.value % size === 0)?.[0] ?? 'minutes')
const typed = ref(Number.isNaN(model.value) ? '' : String(model.value / sizeOf(unit.value)))

watch(model, (minutes) => {
  if (!Number.isNaN(minutes) && Math.round(Number(typed.value) * sizeOf(unit.value)) !== minutes)
    typed.value = String(minutes / sizeOf(unit.value))
})

function read(text: string): void {
  typed.value = text
  model.value = text.trim() === '' ? Number.NaN : Math.round(Number(text) * sizeOf(unit.value))
}

function turn(chosen: Unit): void {
  unit.value = chosen
  read(typed.value)
}
</script>

<template>
  <div class="field">
    <label :for="id">{{ props.label }}</label>
    <div class="span">
      <VTextField
        :id="id" :model-value="typed" inputmode="decimal" :error-messages="props.error ?? []" hide-details="auto"
        @update:model-value="read"
      />
      <VSelect
        :model-value="unit" class="unit" :aria-label="texts.unitOf(props.label)" :items="units.map(([name]) => name)" hide-details
        @update:model-value="turn"
      />
    </div>
  </div>
</template>

<style scoped>
.span {
  display: grid;
  grid-template-columns: 1fr 8.5rem;
  gap: 8px;
  align-items: start;
}
</style>
