<script setup lang="ts">
import { VRadio, VRadioGroup } from 'vuetify/components'
import { type Shape, shapes, shapeTable } from '~~/core/event-type/shapes'
import { formatDurations } from '~~/core/catalogue/event-type'

/** What a new event type starts as. */

defineProps<{ offered?: readonly Shape[] }>()
const shape = defineModel<Shape>({ required: true })

const names: Record<Shape, { name: string, text: string }> = {
  shortCall: { name: 'Short call', text: 'a first word, soon' },
  meeting: { name: 'Meeting', text: 'one client and one host' },
  group: { name: 'Group session', text: 'several clients share one session' },
  interview: { name: 'Interview by two', text: 'two hosts at once' },
}
</script>

<template>
  <VRadioGroup v-model="shape" hide-details aria-label="Start with">
    <VRadio v-for="choice in offered ?? shapes" :key="choice" :value="choice">
      <template #label>
        <span><strong>{{ names[choice].name }}</strong>, {{ formatDurations(shapeTable[choice].settings.durations) }} <span class="quiet">{{ names[choice].text }}</span></span>
      </template>
    </VRadio>
  </VRadioGroup>
</template>
