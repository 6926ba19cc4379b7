<script setup lang="ts">
import { formatZone } from '~~/core/time/format'

/** From which zone the consequences are looked at; apart, since its list is long and hardly ever changes. */

const props = defineProps<{ zones: readonly string[] }>()
const zone = defineModel<string>({ required: true })
const choices = computed(() => [...new Set([...props.zones, ...Intl.supportedValuesOf('timeZone')])])
</script>

<template>
  <label>seen from
    <select v-model="zone" aria-label="Look at it as a client in another zone">
      <option v-for="choice in choices" :key="choice" :value="choice">{{ formatZone(choice) }}</option>
    </select>
  </label>
</template>
