<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VCheckbox, VRadio, VRadioGroup, VTextField } from 'vuetify/components'
import type { RoomOptions } from '~~/core/rooms/options'

/** What a room is like for those who come into it. */

const options = defineModel<RoomOptions>({ required: true })
defineProps<{ errors: Readonly<Record<string, string>> }>()
const set = (part: Partial<RoomOptions>) => (options.value = { ...options.value, ...part })
const setCamera = (whose: 'host' | 'clients', isOn: boolean) => set({ cameras: { ...options.value.cameras, [whose]: isOn } })
</script>

<template>
  <div class="room-options">
    <VRadioGroup :model-value="options.entry" :label="texts.whoComesIn" hide-details density="compact" @update:model-value="$event && set({ entry: $event })">
      <VRadio value="host" :label="texts.hostLetsIn" />
      <VRadio value="open" :label="texts.openToAll" />
    </VRadioGroup>
    <VCheckbox :model-value="options.passcode" :label="texts.withPasscode" hide-details density="compact" @update:model-value="set({ passcode: $event === true })" />
    <VCheckbox :model-value="options.muted" :label="texts.mutedOnEntry" hide-details density="compact" @update:model-value="set({ muted: $event === true })" />
    <VCheckbox :model-value="options.cameras.host" :label="texts.hostCameraOn" hide-details density="compact" @update:model-value="setCamera('host', $event === true)" />
    <VCheckbox :model-value="options.cameras.clients" :label="texts.clientCamerasOn" hide-details density="compact" @update:model-value="setCamera('clients', $event === true)" />
    <VTextField
      :model-value="options.earlyMinutes" type="number" min="0" max="60" :label="texts.earlyMinutes" :error-messages="errors['room.options.earlyMinutes'] ?? []"
      hide-details="auto" @update:model-value="set({ earlyMinutes: Number($event) })"
    />
  </div>
</template>

<style scoped>
.room-options {
  margin-top: 12px;
}

.room-options .v-text-field {
  margin-top: 8px;
}
</style>
