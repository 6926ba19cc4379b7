<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn, VRadio, VRadioGroup, VTextField } from 'vuetify/components'
import { capitalise } from '~~/core/catalogue/capitalise'
import { wayWords } from '~~/core/catalogue/rooms'
import { formatList } from '~~/core/time/format'
import type { RoomWayView } from '~~/core/views/desk'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'

/** Another link for a session, made anew or given by hand, or none, once it is clear who hears of it. */

const props = defineProps<{ sessionId: string, clients: readonly string[], hosts: readonly string[], hasRoom: boolean }>()
const emit = defineEmits<{ changed: [] }>()
const { sending, errors, fault, submit } = useSubmission()

type Asked = 'renew' | 'link' | 'remove'
const asked = ref<Asked | null>(null)
const link = ref('')
/** Where the new room is to come from: by the order, or by the way of a key. */
const way = ref('')
const ways = shallowRef<RoomWayView[]>([])
const path: string = `/api/desk/sessions/${props.sessionId}/room`

async function ask(what: Asked): Promise<void> {
  asked.value = what
  link.value = ''
  way.value = ''
  fault.value = ''
  ways.value = what === 'renew' ? await $fetch<RoomWayView[]>(`${path}/ways`).catch(() => []) : []
}

const bodies: Record<Exclude<Asked, 'remove'>, () => object> = {
  renew: () => ({ way: way.value || null }),
  link: () => ({ link: link.value.trim() }),
}
const send = () => submit(async () => {
  if (!asked.value) return
  if (asked.value === 'remove') await $fetch(path, { method: 'DELETE' })
  else await $fetch(`${path}/${asked.value}`, { method: 'POST', body: bodies[asked.value]() })
  asked.value = null
  emit('changed')
})
const titles = { renew: texts.newLink, link: texts.pasteALink, remove: texts.removeTheLink }
const presses = { renew: texts.makeANewLink, link: texts.useThisLink, remove: texts.removeTheLink }
const wayName = ({ kind, name, account }: RoomWayView) =>
  (account ? `${name}: ${account}` : capitalise(kind === 'fixed' ? texts.fixedRoomOf(name) : kind === 'byHand' ? name : wayWords[kind]))
</script>

<template>
  <span class="change-room">
    <LinkButton @click="ask('renew')">{{ texts.newLink }}</LinkButton>
    <LinkButton @click="ask('link')">{{ texts.pasteALink }}</LinkButton>
    <LinkButton v-if="hasRoom" @click="ask('remove')">{{ texts.removeTheLink }}</LinkButton>
  </span>
  <AskDialog
    :model-value="asked !== null" :title="titles[asked ?? 'renew']" :width="520" @update:model-value="asked = null"
  >
    <p>{{ texts.isTold(formatList(clients), formatList(hosts)) }} {{ hasRoom ? texts.oldLinkEnds : '' }}</p>
    <VRadioGroup v-if="asked === 'renew' && ways.length > 1" v-model="way" :label="texts.whereItIsMade" hide-details density="compact">
      <VRadio value="" :label="texts.byTheOrder" />
      <VRadio v-for="choice in ways" :key="choice.key" :value="choice.key" :label="wayName(choice)" />
    </VRadioGroup>
    <VTextField
      v-if="asked === 'link'" v-model="link" :label="texts.theLink" type="url" autofocus :error-messages="errors['link'] ?? []" hide-details="auto"
      @keyup.enter="send"
    />
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn
        :color="asked === 'remove' ? 'error' : 'primary'" :disabled="sending || (asked === 'link' && link.trim() === '')" @click="send"
      >{{ presses[asked ?? 'renew'] }}</VBtn>
      <LinkButton @click="asked = null">{{ texts.keepTheLink }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.change-room {
  display: flex;
  gap: 18px;
  margin-top: 6px;
}
</style>
