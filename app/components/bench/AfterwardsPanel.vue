<script setup lang="ts">
import { VRadio, VRadioGroup, VTextarea, VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'

/** What clients see once they have booked, and how it stands in calendars. */

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

const goesOn = ref(settings.value.afterwards.address !== '')
const fields = [['{{ client.name }}', 'the client’s name'], ['{{ eventType.name }}', 'this event type']] as const

function set(part: Partial<Settings['afterwards']>): void {
  settings.value = { ...settings.value, afterwards: { ...settings.value.afterwards, ...part } }
}

function turn(onward: boolean): void {
  goesOn.value = onward
  if (!onward) set({ address: '' })
}
</script>

<template>
  <div>
    <VRadioGroup :model-value="goesOn" label="After booking, clients" @update:model-value="turn($event === true)">
      <VRadio :value="false" label="see what they booked, and this text" />
      <VRadio :value="true" label="go on to a page of yours" />
    </VRadioGroup>
    <div v-if="goesOn" class="field">
      <label for="onward">Address of that page</label>
      <VTextField
        id="onward" :model-value="settings.afterwards.address" placeholder="https://"
        :error-messages="errors['afterwards.address'] ?? []" hide-details="auto"
        @update:model-value="set({ address: $event.trim() })"
      />
      <p class="quiet hint">What they booked stays one press away, and in their mail.</p>
    </div>
    <div v-else class="field">
      <label for="thanks">Text</label>
      <VTextarea
        id="thanks" :model-value="settings.afterwards.text" rows="3" auto-grow
        :error-messages="errors['afterwards.text'] ?? []" hide-details="auto"
        @update:model-value="set({ text: $event })"
      />
    </div>
    <div class="field">
      <label for="calendar-title">Title in calendars</label>
      <VTextField
        id="calendar-title" :model-value="settings.calendarTitle" spellcheck="false"
        :error-messages="errors['calendarTitle'] ?? []" hide-details="auto"
        @update:model-value="settings = { ...settings, calendarTitle: $event }"
      />
      <p class="hint">
        Insert
        <template v-for="([field, label], index) in fields" :key="field">
          <template v-if="index > 0"> or </template>
          <LinkButton
            @click="settings = { ...settings, calendarTitle: `${settings.calendarTitle} ${field}`.trim() }"
          >{{ label }}</LinkButton>
        </template>
      </p>
    </div>
  </div>
</template>
