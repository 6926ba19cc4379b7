<script setup lang="ts">
import { VBtn, VTextField } from 'vuetify/components'
import type { Shape } from '~~/core/event-type/shapes'
import AskDialog from '~/components/desk/AskDialog.vue'
import ShapeChoice from '~/components/desk/ShapeChoice.vue'
import { useEventTypes } from '~/stores/event-types'

/** Names a new event type and chooses what it starts as. */

const open = defineModel<boolean>({ required: true })
const eventTypes = useEventTypes()
const name = ref('')
const shape = ref<Shape>('meeting')
const fault = ref('')
const sending = ref(false)

async function create(): Promise<void> {
  fault.value = name.value.trim() ? '' : 'Give it a name'
  if (fault.value) return
  sending.value = true
  const made = await eventTypes.create(name.value.trim(), shape.value)
  sending.value = false
  if (made) await navigateTo(`/desk/event-types/${made.id}`)
  else fault.value = eventTypes.fault
}
</script>

<template>
  <AskDialog v-model="open" title="New event type" :width="480">
    <form id="new-event-type" class="new" @submit.prevent="create">
      <label for="new-name">What can be booked?</label>
      <VTextField id="new-name" v-model="name" autofocus placeholder="First meeting" :error-messages="fault || []" hide-details="auto" />
      <p>Start with</p>
      <ShapeChoice v-model="shape" />
      <p class="quiet">It begins as a draft that only members see, and all of it can be changed.</p>
    </form>
    <template #actions>
      <VBtn type="submit" form="new-event-type" :loading="sending">Create a draft</VBtn>
      <LinkButton @click="open = false">Cancel</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.new {
  display: grid;
  gap: 6px;
}

label,
.new > p:not(.quiet) {
  font-weight: 600;
}
</style>
