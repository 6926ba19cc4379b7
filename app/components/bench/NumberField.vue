<script setup lang="ts">
import { VTextField } from 'vuetify/components'

const props = defineProps<{ label: string, error?: string | undefined, unit?: string }>()
const model = defineModel<number>({ required: true })
const id = useId()
const typed = ref(Number.isNaN(model.value) ? '' : String(model.value))

watch(model, value => (Number(typed.value) === value ? undefined : (typed.value = Number.isNaN(value) ? typed.value : String(value))))

/** Text that is no number becomes NaN, which the schema refuses at this field; what was typed stays. */
function read(text: string): void {
  typed.value = text
  model.value = text.trim() === '' ? Number.NaN : Number(text)
}
</script>

<template>
  <div class="field">
    <label :for="id">{{ props.label }}</label>
    <VTextField
      :id="id" :model-value="typed" inputmode="numeric" :suffix="props.unit ?? ''" :error-messages="props.error ?? []"
      hide-details="auto" @update:model-value="read"
    />
  </div>
</template>
