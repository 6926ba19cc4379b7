<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VCheckbox } from 'vuetify/components'
import type { CalendarView } from '~~/core/views/calendars'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useConnections } from '~/stores/connections'

/** The event types whose sessions go into one calendar although another receives the rest. */

const props = defineProps<{ calendar: CalendarView, eventTypes: readonly { id: string, name: string }[] }>()
const store = useConnections()

const open = ref(false)
const chosen = ref<string[]>([])
const names = computed(() => props.eventTypes.filter(({ id }) => props.calendar.receivesFor.includes(id)).map(({ name }) => name))

function begin(): void {
  chosen.value = [...props.calendar.receivesFor]
  open.value = true
}

async function save(): Promise<void> {
  await store.change(props.calendar.id, { receivesFor: chosen.value })
  open.value = false
}
</script>

<template>
  <LinkButton :aria-label="texts.receivesSomeNamed(calendar.name)" @click="begin">{{
    names.length > 0 ? texts.receivesOnly(names) : texts.receivesSome
  }}</LinkButton>
  <AskDialog v-model="open" :title="texts.receivesSomeNamed(calendar.name)" :width="480">
    <p class="quiet">{{ eventTypes.length > 0 ? texts.receivesSomeHint : texts.noEventTypes }}</p>
    <div class="choices">
      <VCheckbox v-for="{ id, name } in eventTypes" :key="id" v-model="chosen" :value="id" :label="name" hide-details density="compact" />
    </div>
    <template #actions>
      <VBtn v-if="eventTypes.length > 0" color="primary" @click="save">{{ texts.saveChoice }}</VBtn>
      <LinkButton @click="open = false">{{ texts.leaveChoice }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.choices {
  max-height: 50vh;
  overflow-y: auto;
}
</style>
