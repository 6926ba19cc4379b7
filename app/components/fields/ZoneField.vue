<script setup lang="ts">
import { texts } from '~/locales/common'
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

/** Whoever begins to type means another zone, not the rest of this one's name. */
const root = useTemplateRef<InstanceType<typeof VAutocomplete>>('root')
async function selectText(isFocused: boolean): Promise<void> {
  if (!isFocused) return
  await nextTick()
  const element: unknown = root.value?.$el
  if (element instanceof HTMLElement) element.querySelector('input')?.select()
}

const describe = (choice: ZoneChoice) => [choice.country, choice.offset].filter(Boolean).join(', ')
</script>

<template>
  <VAutocomplete
    ref="root" v-model="zone" :items="choices" item-value="zone" item-title="name" :custom-filter="matches" :label="label" :readonly="disabled" hide-details="auto"
    auto-select-first spellcheck="false" :no-data-text="texts.noZone" @update:focused="selectText"
  >
    <template #item="{ props: item, internalItem }">
      <VListItem v-bind="item" :subtitle="describe(internalItem.raw)" />
    </template>
  </VAutocomplete>
</template>
