<script setup lang="ts">
import { VAutocomplete, VListItem } from 'vuetify/components'
import { listZones, matchesZone, type ZoneChoice } from '~~/core/time/zone-choices'

/** A time zone, found by typing its city, country or offset. */

const props = defineProps<{ locale: string, now: number, label?: string, disabled?: boolean, near?: readonly string[] }>()
const zone = defineModel<string>({ required: true })

/** Zones that are likely come first; all stand in the order of what is written. */
const choices = computed(() => {
  const all = listZones(props.locale, props.now)
  const near = new Set(props.near ?? [])
  return [...all.filter(choice => near.has(choice.zone)), ...all.filter(choice => !near.has(choice.zone))]
})
function matches(_title: string, typed: string, item?: { raw: ZoneChoice }): boolean {
  return item !== undefined && matchesZone(item.raw, typed)
}

const describe = (choice: ZoneChoice) => [choice.country, choice.offset].filter(Boolean).join(', ')
</script>

<template>
  <VAutocomplete
    v-model="zone" :items="choices" item-value="zone" item-title="name" :custom-filter="matches" :label="label" :readonly="disabled" hide-details="auto"
    auto-select-first spellcheck="false"
  >
    <template #item="{ props: item, internalItem }">
      <VListItem v-bind="item" :subtitle="describe(internalItem.raw)" />
    </template>
  </VAutocomplete>
</template>
