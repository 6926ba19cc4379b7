<script setup lang="ts">
import { VBtn, VTextarea } from 'vuetify/components'
import AskDialog from '~/components/desk/AskDialog.vue'

/** Asks before a booking is cancelled or declined, and for a reason. */

const props = defineProps<{ client: string, state: 'cancelled' | 'declined', busy: boolean }>()
const emit = defineEmits<{ close: [reason: string], keep: [] }>()
const reason = ref('')
const title = computed(() => `${props.state === 'cancelled' ? 'Cancel' : 'Decline'} ${props.client}’s booking?`)
</script>

<template>
  <AskDialog :model-value="true" :title="title" :width="460" @update:model-value="emit('keep')">
    <p>The client is notified by mail, and the time is free again.</p>
    <div>
      <label for="close-reason">Reason <span class="quiet">(optional; the client reads it)</span></label>
      <VTextarea id="close-reason" v-model="reason" rows="2" maxlength="500" hide-details="auto" />
    </div>
    <template #actions>
      <VBtn color="error" :loading="busy" @click="emit('close', reason.trim())">{{ state === 'cancelled' ? 'Cancel the booking' : 'Decline the request' }}</VBtn>
      <LinkButton @click="emit('keep')">Keep it</LinkButton>
    </template>
  </AskDialog>
</template>
