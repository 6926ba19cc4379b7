<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VRadio, VRadioGroup } from 'vuetify/components'
import { type Shape, shapes, shapeTable } from '~~/core/event-type/shapes'
import { formatDurations } from '~~/core/catalogue/event-type'

/** What a new event type starts as. */

defineProps<{ offered?: readonly Shape[] }>()
const shape = defineModel<Shape>({ required: true })

const names: Record<Shape, { name: string, text: string }> = {
  shortCall: { name: texts.shortCall, text: texts.aFirstWordSoon },
  meeting: { name: 'Meeting', text: texts.oneClientAndOneHost },
  group: { name: texts.groupSession, text: texts.severalClientsShareOneSession },
  interview: { name: texts.interviewByTwo, text: texts.twoHostsAtOnce },
}
</script>

<template>
  <VRadioGroup v-model="shape" hide-details :aria-label="texts.startWith">
    <VRadio v-for="choice in offered ?? shapes" :key="choice" :value="choice">
      <template #label>
        <span class="shape"><strong>{{ names[choice].name }}</strong>, {{ formatDurations(shapeTable[choice].settings.durations) }}<span class="quiet">{{ names[choice].text }}</span></span>
      </template>
    </VRadio>
  </VRadioGroup>
</template>

<style scoped>
.shape {
  font-size: 14px;
  line-height: 1.35;
  padding: 4px 0;
}

.shape .quiet {
  display: block;
  font-size: 13px;
}
</style>
