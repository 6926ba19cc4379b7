<script setup lang="ts">
import { texts } from '~/locales/client'
import { formatHourCount, formatZone, zoneDifference } from '~~/core/time/format'
import { useReaderLocale } from '~/composables/reader-locale'

/** The zone that times are shown in; the field to change it is loaded only when it is asked for. */

const props = defineProps<{ zone: string, hostZones: readonly string[], now: number }>()
const emit = defineEmits<{ choose: [zone: string] }>()
const ZoneSearch = defineAsyncComponent(() => import('./ZoneSearch.vue'))
const locale = useReaderLocale()

const open = ref(false)
const others = computed(() => props.hostZones.filter(zone => zone !== props.zone))
const minutes = computed(() =>
  others.value.length === 1 && others.value[0] ? zoneDifference(props.zone, others.value[0], props.now) : 0,
)
const difference = computed(() => {
  const city = formatZone(others.value[0] ?? '')
  const hours = formatHourCount(Math.abs(minutes.value))
  return minutes.value === 0 ? '' : minutes.value > 0 ? texts.aheadOf(hours, city) : texts.behind(hours, city)
})

function choose(zone: string): void {
  emit('choose', zone)
  open.value = false
}
</script>

<template>
  <span class="zone-picker">
    {{ texts.timesIn }}
    <ZoneSearch v-if="open" :zone="zone" :near="hostZones" :locale="locale" :now="now" @choose="choose" @keydown.esc="open = false" />
    <template v-else>
      <button type="button" class="word" :title="zone" @click="open = true">{{ formatZone(zone) }}</button>{{ difference }}
    </template>
  </span>
</template>
