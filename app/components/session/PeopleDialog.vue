<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn } from 'vuetify/components'
import type { SessionView } from '~~/core/views/desk'
import NumberField from '~/components/bench/NumberField.vue'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'

/** For how many people a booking is, changed by a member. */

const props = defineProps<{ booking: SessionView['bookings'][number] }>()
const emit = defineEmits<{ changed: [], keep: [] }>()
const people = ref(props.booking.people)
const { sending, errors, fault, submit } = useSubmission()

const save = () => submit(async () => {
  if (people.value !== props.booking.people)
    await $fetch(`/api/desk/bookings/${props.booking.id}/people`, { method: 'POST', body: { people: people.value } })
  emit('changed')
})
</script>

<template>
  <AskDialog :model-value="true" :title="texts.peopleOf(booking.client.name)" :width="460" @update:model-value="emit('keep')">
    <p>{{ texts.peopleAreTold(booking.client.name) }}</p>
    <form id="people-form" novalidate @submit.prevent="save">
      <NumberField v-model="people" :label="texts.howMany" :unit="texts.peopleUnit" :error="errors['people'] ?? fault" />
    </form>
    <template #actions>
      <VBtn type="submit" form="people-form" :loading="sending">{{ texts.saveAndTell }}</VBtn>
      <LinkButton @click="emit('keep')">{{ texts.leaveAsItIs }}</LinkButton>
    </template>
  </AskDialog>
</template>
