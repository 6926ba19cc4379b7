<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VRadio, VRadioGroup, VTextarea, VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'

/** What clients see once they have booked, and how it stands in calendars. */

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

const goesOn = ref(settings.value.afterwards.address !== '')
const fields = [
  { field: '{{ client.name }}', label: texts.theClientsName },
  { field: '{{ eventType.name }}', label: texts.thisEventType },
]

function setPart(part: Partial<Settings['afterwards']>): void {
  settings.value = { ...settings.value, afterwards: { ...settings.value.afterwards, ...part } }
}

const onward = computed({
  get: () => goesOn.value,
  set: (leads: boolean) => {
    goesOn.value = leads
    if (!leads) setPart({ address: '' })
  },
})
</script>

<template>
  <div>
    <VRadioGroup v-model="onward" :label="texts.afterBookingClients">
      <VRadio :value="false" :label="texts.seeWhatTheyBookedAndAText" />
      <VRadio :value="true" :label="texts.goOnToAPage" />
    </VRadioGroup>
    <div v-if="onward" class="field">
      <label for="onward">{{ texts.addressOfThatPage }}</label>
      <VTextField
        id="onward" :model-value="settings.afterwards.address" :placeholder="texts.addressExample"
        :error-messages="errors['afterwards.address'] ?? []" hide-details="auto"
        @update:model-value="setPart({ address: $event.trim() })"
      />
      <p class="quiet hint">{{ texts.whatTheyBookedStaysNear }}</p>
    </div>
    <div v-else class="field">
      <label for="thanks">{{ texts.text }}</label>
      <VTextarea
        id="thanks" :model-value="settings.afterwards.text" rows="3" auto-grow
        :error-messages="errors['afterwards.text'] ?? []" hide-details="auto"
        @update:model-value="setPart({ text: $event })"
      />
    </div>
    <div class="field">
      <label for="calendar-title">{{ texts.titleInCalendars }}</label>
      <VTextField
        id="calendar-title" :model-value="settings.calendarTitle" spellcheck="false"
        :error-messages="errors['calendarTitle'] ?? []" hide-details="auto"
        @update:model-value="settings = { ...settings, calendarTitle: $event }"
      />
      <p class="hint">
        {{ texts.insert }}
        <template v-for="({ field, label }, index) in fields" :key="field">
          <template v-if="index > 0">{{ texts.or }}</template>
          <LinkButton
            @click="settings = { ...settings, calendarTitle: `${settings.calendarTitle} ${field}`.trim() }"
          >{{ label }}</LinkButton>
        </template>
      </p>
    </div>
  </div>
</template>
