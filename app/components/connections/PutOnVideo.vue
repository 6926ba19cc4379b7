<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VCheckbox } from 'vuetify/components'
import type { HostConnection } from '~~/core/views/connections'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'
import { useConnections } from '~/stores/connections'

/** Offers to let event types take place by video, now that rooms can be made. */

const props = defineProps<{ host: HostConnection }>()
const open = defineModel<boolean>({ required: true })
const store = useConnections()
const { sending, fault, submit } = useSubmission()
const chosen = ref<string[]>([])
watch(open, () => (chosen.value = []))

const put = () => submit(async () => {
  const path: string = '/api/desk/event-types/by-video'
  await $fetch(path, { method: 'POST', body: { ids: chosen.value } })
  open.value = false
  await store.load()
})
</script>

<template>
  <AskDialog v-model="open" :title="texts.putOnVideo" :width="520">
    <p>{{ texts.putOnVideoHint }}</p>
    <div>
      <VCheckbox v-for="{ id, name } in props.host.elsewhere" :key="id" v-model="chosen" :value="id" :label="name" hide-details />
    </div>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn color="primary" :disabled="sending || chosen.length === 0" @click="put">{{ texts.offerVideo(chosen.length) }}</VBtn>
      <LinkButton @click="open = false">{{ texts.notNow }}</LinkButton>
    </template>
  </AskDialog>
</template>
