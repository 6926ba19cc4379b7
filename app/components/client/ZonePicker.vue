<script setup lang="ts">
import { formatZoneDifference, formatZone } from '~~/core/time/format'
import { useReaderLocale } from '~/composables/reader-locale'

/** The zone that times are shown in; the field to change it is loaded only when it is asked for. */

const props = defineProps<{ zone: string, hostZones: readonly string[], now: number }>()
const emit = defineEmits<{ choose: [zone: string] }>()
const ZoneSearch = defineAsyncComponent(() => import('./ZoneSearch.vue'))
const locale = useReaderLocale()

const open = ref(false)
const others = computed(() => props.hostZones.filter(zone => zone !== props.zone))
const difference = computed(() =>
  others.value.length === 1 && others.value[0] ? formatZoneDifference(props.zone, others.value[0], props.now) : null,
)

function choose(zone: string): void {
  emit('choose', zone)
  open.value = false
}
</script>

<template>
  <span class="zone-picker">
    Times in
    <ZoneSearch v-if="open" :zone="zone" :near="hostZones" :locale="locale" :now="now" @choose="choose" @keydown.esc="open = false" />
    <template v-else>
      <button type="button" class="word" :title="zone" @click="open = true">{{ formatZone(zone) }}</button>
      <template v-if="difference">, {{ difference.replace(' ahead', ' ahead of').replace(' behind', ' behind') }} {{ formatZone(others[0] ?? '') }}</template>
    </template>
  </span>
</template>

<style>
.zone-picker {
  display: inline-flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 4px;
}
</style>
