<script setup lang="ts">
import { texts } from '~/locales/common'
import { VAutocomplete, VListItem } from 'vuetify/components'
import { listZones, matchesZone, rankZones, zoneChoice, type ZoneChoice } from '~~/core/time/zone-choices'

/** A time zone, found by typing its city, country or offset. */

const props = defineProps<{ locale: string, now: number, label?: string, disabled?: boolean, near?: readonly string[] }>()
const zone = defineModel<string>({ required: true })

/** Listing all zones takes a slow machine a second: it is done once somebody comes to choose. */
const isVisited = ref(false)
const typed = ref('')
/** Zones that are likely come first; all stand in the order of what is written. */
const listed = computed(() => {
  if (!isVisited.value) return [zoneChoice(zone.value, undefined, props.locale, props.now)]
  const all = listZones(props.locale, props.now)
  const near = new Set(props.near ?? [])
  return [...all.filter(choice => near.has(choice.zone)), ...all.filter(choice => !near.has(choice.zone))]
})
const choices = computed(() => rankZones(listed.value, typed.value))
function matches(_title: string, typed: string, item?: { raw: ZoneChoice }): boolean {
  return item !== undefined && matchesZone(item.raw, typed)
}

/** The field is never left without a zone, whatever is deleted in it. */
function choose(chosen: string | null): void {
  if (chosen) zone.value = chosen
}

const describe = (choice: ZoneChoice) => [choice.country, choice.offset].filter(Boolean).join(', ')
</script>

<template>
  <VAutocomplete
    v-model:search="typed" class="zone-field" :model-value="zone" :items="choices" item-value="zone" item-title="name"
    :custom-filter="matches" :label="label"
    :placeholder="choices.find(choice => choice.zone === zone)?.name" :readonly="disabled" hide-details="auto"
    auto-select-first spellcheck="false" :no-data-text="texts.noZone"
    @focusin="isVisited = true" @update:model-value="choose"
  >
    <!-- With the chosen name in a slot of its own, the field is empty for whoever begins to type. -->
    <template #selection="{ internalItem }">{{ internalItem.title }}</template>
    <template #item="{ props: item, internalItem }">
      <VListItem v-bind="item" :subtitle="describe(internalItem.raw)" />
    </template>
  </VAutocomplete>
</template>

<style>
.zone-field .v-field--focused .v-autocomplete__selection {
  display: none;
}
</style>
