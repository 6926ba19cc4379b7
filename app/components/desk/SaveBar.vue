<script setup lang="ts">
import { texts } from '~/locales/common'
import { VBtn } from 'vuetify/components'

/** The foot of a screen whose changes are saved together: what is unsaved, and the way to keep or drop it. Leaving asks first. */

const props = defineProps<{ isChanged: boolean, isSound: boolean, sending: boolean, fault: string }>()
const emit = defineEmits<{ save: [], discard: [] }>()

onBeforeRouteLeave(() => !props.isChanged || window.confirm(texts.leaveWithoutSaving))
</script>

<template>
  <div class="save-bar">
    <p role="status">{{ isSound ? (isChanged ? texts.unsavedChanges : texts.everythingIsSaved) : texts.fixTheMarkedPart }}</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <LinkButton :disabled="!isChanged" @click="emit('discard')">{{ texts.discardChanges }}</LinkButton>
    <VBtn :disabled="!isChanged || !isSound" :loading="sending" @click="emit('save')">{{ texts.save }}</VBtn>
  </div>
</template>

<style scoped>
.save-bar {
  position: sticky;
  bottom: 0;
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: flex-end;
  gap: 6px 18px;
  margin: 0 -24px;
  padding: 10px 24px;
  background: var(--surface);
  border-top: 1px solid var(--line);
}
</style>
