<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VCheckbox } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'
import TimeSpanField from './TimeSpanField.vue'

/** Until how long before the start clients may move or cancel by themselves. */

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

const terms = [
  { name: 'moveUntilMinutes', allowed: texts.clientsMayMove, until: texts.moveUntil },
  { name: 'cancelUntilMinutes', allowed: texts.clientsMayCancel, until: texts.cancelUntil },
] as const

function set(name: (typeof terms)[number]['name'], value: number | null): void {
  settings.value = { ...settings.value, clientTerms: { ...settings.value.clientTerms, [name]: value } }
}
</script>

<template>
  <div>
    <template v-for="{ name, allowed, until } in terms" :key="name">
      <VCheckbox
        :model-value="settings.clientTerms[name] !== null" :label="allowed" hide-details @update:model-value="set(name, $event ? 0 : null)"
      />
      <TimeSpanField
        v-if="settings.clientTerms[name] !== null" :model-value="settings.clientTerms[name] ?? 0" :label="until"
        :error="errors[`clientTerms.${name}`]" @update:model-value="set(name, $event)"
      />
    </template>
    <p class="quiet hint">{{ texts.termsHint }}</p>
  </div>
</template>
