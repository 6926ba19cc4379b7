<script setup lang="ts">
import { formatZoneDifference, formatZone } from '~~/core/time/format'

const props = defineProps<{ zone: string, hostZones: readonly string[], now: number }>()
const emit = defineEmits<{ choose: [zone: string] }>()

const open = ref(false)
const zones = computed(() => Intl.supportedValuesOf('timeZone'))
const others = computed(() => props.hostZones.filter(zone => zone !== props.zone))
const difference = computed(() =>
  others.value.length === 1 && others.value[0] ? formatZoneDifference(props.zone, others.value[0], props.now) : null,
)
const select = useTemplateRef<HTMLSelectElement>('select')

async function show(): Promise<void> {
  open.value = true
  await nextTick()
  select.value?.focus()
}

function choose(event: Event): void {
  if (event.target instanceof HTMLSelectElement) emit('choose', event.target.value)
  open.value = false
}
</script>

<template>
  <span class="zone-picker">
    Times in
    <select v-if="open" ref="select" aria-label="The zone times are shown in" :value="zone" @change="choose" @keydown.esc="open = false">
      <option v-for="name in zones" :key="name" :value="name">{{ name.replaceAll('_', ' ').replaceAll('/', ' / ') }}</option>
    </select>
    <button v-else type="button" class="word" :title="zone" @click="show">{{ formatZone(zone) }}</button>
    <template v-if="difference">, {{ difference.replace(' ahead', ' ahead of').replace(' behind', ' behind') }} {{ formatZone(others[0] ?? '') }}</template>
  </span>
</template>

<style>
.zone-picker select {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 4px 8px;
  max-width: 16rem;
}
</style>
