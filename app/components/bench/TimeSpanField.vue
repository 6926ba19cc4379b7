<script setup lang="ts">
import { VTextField } from 'vuetify/components'

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

function turn(event: Event): void {
  const chosen = units.find(([name]) => event.target instanceof HTMLSelectElement && name === event.target.value)
  if (!chosen) return
  unit.value = chosen[0]
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
      <select :value="unit" :aria-label="`Unit of: ${props.label}`" @change="turn">
        <option v-for="[name] in units" :key="name" :value="name">{{ name }}</option>
      </select>
    </div>
  </div>
</template>

<style scoped>
.span {
  display: grid;
  grid-template-columns: 1fr 7rem;
  gap: 8px;
  align-items: start;
}

select {
  height: 40px;
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 0 8px;
}
</style>
