<script setup lang="ts">
import { texts } from '~/locales/guests'
import { VBtn } from 'vuetify/components'
import type { SessionView } from '~~/core/views/desk'
import AskDialog from '~/components/desk/AskDialog.vue'
import GuestFields from '~/components/GuestFields.vue'
import { useGuestChange } from '~/composables/guest-change'

/** Whom a client brings along, changed by a member. */

const props = defineProps<{ booking: SessionView['bookings'][number] }>()
const emit = defineEmits<{ changed: [], keep: [] }>()
const { addresses, errors, sending, save } = useGuestChange(`/api/desk/bookings/${props.booking.id}/guests`, props.booking.guests)
</script>

<template>
  <AskDialog :model-value="true" :title="texts.guestsOf(booking.client.name)" :width="460" @update:model-value="emit('keep')">
    <p>{{ texts.whoIsTold(booking.client.name) }}</p>
    <form id="guests-form" novalidate @submit.prevent="save().then(isDone => isDone && emit('changed'))">
      <GuestFields v-model="addresses" :errors="errors" :may-add="true" />
    </form>
    <template #actions>
      <VBtn type="submit" form="guests-form" :loading="sending">{{ texts.saveAndTell }}</VBtn>
      <LinkButton @click="emit('keep')">{{ texts.leaveAsItIs }}</LinkButton>
    </template>
  </AskDialog>
</template>
