<script setup lang="ts">
import { sayZone } from '~~/core/time/say'

/** From which zone the consequences are looked at; apart, since its list is long and hardly ever changes. */

const props = defineProps<{ zones: readonly string[] }>()
const zone = defineModel<string>({ required: true })
const choices = computed(() => [...new Set([...props.zones, ...Intl.supportedValuesOf('timeZone')])])
</script>

<template>
  <label>seen from
    <select v-model="zone" aria-label="Look at it as a client in another zone">
      <option v-for="one in choices" :key="one" :value="one">{{ sayZone(one) }}</option>
    </select>
  </label>
</template>
