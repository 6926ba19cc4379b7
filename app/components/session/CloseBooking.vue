<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn, VTextarea } from 'vuetify/components'
import AskDialog from '~/components/desk/AskDialog.vue'

/** Asks before a booking is cancelled or declined, and for a reason. */

const props = defineProps<{ client: string, state: 'cancelled' | 'declined', busy: boolean }>()
const emit = defineEmits<{ close: [reason: string], keep: [] }>()
const reason = ref('')
const title = computed(() => texts.whoseBooking(props.state === 'cancelled' ? texts.cancel : texts.decline, props.client))
</script>

<template>
  <AskDialog :model-value="true" :title="title" :width="460" @update:model-value="emit('keep')">
    <p>{{ texts.theClientIsNotifiedByMail }}</p>
    <div>
      <label for="close-reason">{{ texts.reason }} <span class="quiet">{{ texts.optionalTheClientReadsIt }}</span></label>
      <VTextarea id="close-reason" v-model="reason" rows="2" maxlength="500" hide-details="auto" />
    </div>
    <template #actions>
      <VBtn color="error" :loading="busy" @click="emit('close', reason.trim())">{{ state === 'cancelled' ? texts.cancelTheBooking : texts.declineTheRequest }}</VBtn>
      <LinkButton @click="emit('keep')">{{ texts.keepIt }}</LinkButton>
    </template>
  </AskDialog>
</template>
