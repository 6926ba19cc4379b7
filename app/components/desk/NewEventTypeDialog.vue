<script setup lang="ts">
import { texts } from '~/locales/event-types'
import { VBtn, VTextField } from 'vuetify/components'
import { type Shape, shapes } from '~~/core/event-type/shapes'
import AskDialog from '~/components/desk/AskDialog.vue'
import ShapeChoice from '~/components/desk/ShapeChoice.vue'
import { useConnections } from '~/stores/connections'
import { useEventTypes } from '~/stores/event-types'

/** Names a new event type and chooses what it starts as. */

const open = defineModel<boolean>({ required: true })
const eventTypes = useEventTypes()
const connections = useConnections()
onMounted(connections.load)
/** An interview by two takes two hosts. */
const hasTwoHosts = computed(() => (connections.connections?.hosts.length ?? 2) > 1)
const offered = computed(() => shapes.filter(choice => choice !== 'interview' || hasTwoHosts.value))
const name = ref('')
const shape = ref<Shape>('meeting')
const fault = ref('')
const sending = ref(false)

async function create(): Promise<void> {
  fault.value = name.value.trim() ? '' : texts.giveItAName
  if (fault.value) return
  sending.value = true
  const made = await eventTypes.create(name.value.trim(), shape.value)
  sending.value = false
  if (made) await navigateTo(`/desk/event-types/${made.id}`)
  else fault.value = eventTypes.fault
}
</script>

<template>
  <AskDialog v-model="open" :title="texts.newEventType" :width="480">
    <form id="new-event-type" class="new" @submit.prevent="create">
      <label for="new-name">{{ texts.whatCanBeBooked }}</label>
      <VTextField id="new-name" v-model="name" autofocus :placeholder="texts.firstMeeting" :error-messages="fault || []" hide-details="auto" />
      <p>{{ texts.startWith }}</p>
      <ShapeChoice v-model="shape" :offered="offered" />
      <p v-if="!hasTwoHosts" class="quiet">{{ texts.interviewNeedsTwo }}</p>
      <p class="quiet">{{ texts.itBeginsAsADraft }}</p>
    </form>
    <template #actions>
      <VBtn type="submit" form="new-event-type" :loading="sending">{{ texts.createADraft }}</VBtn>
      <LinkButton @click="open = false">{{ texts.cancel }}</LinkButton>
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
