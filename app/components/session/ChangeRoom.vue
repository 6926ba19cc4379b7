<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn, VTextField } from 'vuetify/components'
import { formatList } from '~~/core/time/format'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'

/** Another link for a session, made anew or given by hand, once it is clear who hears of it. */

const props = defineProps<{ sessionId: string, clients: readonly string[], hosts: readonly string[], hasRoom: boolean }>()
const emit = defineEmits<{ changed: [] }>()
const { sending, errors, fault, submit } = useSubmission()

const asked = ref<'renew' | 'link' | null>(null)
const link = ref('')

function ask(what: 'renew' | 'link'): void {
  asked.value = what
  link.value = ''
  fault.value = ''
}

const send = () => submit(async () => {
  await $fetch(`/api/desk/sessions/${props.sessionId}/room/${asked.value}`, { method: 'POST', body: asked.value === 'link' ? { link: link.value.trim() } : {} })
  asked.value = null
  emit('changed')
})
</script>

<template>
  <span class="change-room">
    <LinkButton @click="ask('renew')">{{ texts.newLink }}</LinkButton>
    <LinkButton @click="ask('link')">{{ texts.pasteALink }}</LinkButton>
  </span>
  <AskDialog
    :model-value="asked !== null" :title="asked === 'link' ? texts.pasteALink : texts.newLink" :width="520" @update:model-value="asked = null"
  >
    <p>{{ texts.isTold(formatList(clients), formatList(hosts)) }} {{ hasRoom ? texts.oldLinkEnds : '' }}</p>
    <VTextField
      v-if="asked === 'link'" v-model="link" :label="texts.theLink" type="url" autofocus :error-messages="errors['link'] ?? []" hide-details="auto"
      @keyup.enter="send"
    />
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn color="primary" :disabled="sending || (asked === 'link' && link.trim() === '')" @click="send">{{ asked === 'link' ? texts.useThisLink : texts.makeANewLink }}</VBtn>
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
