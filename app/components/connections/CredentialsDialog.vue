<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VTextField } from 'vuetify/components'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'

/** The credentials of an account at a service, which are tried before it is connected. */

const props = defineProps<{
  /** Null while nothing is asked. */
  service: { name: string, fields: readonly { key: string, label: string, isSecret: boolean }[] } | null
  hint: string
  /** The call that takes them. */
  path: string
}>()
const emit = defineEmits<{ connected: [], close: [] }>()
const { sending, errors, fault, submit } = useSubmission()
const typed = ref<Record<string, string>>({})

watch(() => props.service, () => {
  typed.value = {}
  errors.value = {}
  fault.value = ''
})

const connect = () => submit(async () => {
  await $fetch(props.path, { method: 'POST', body: { fields: typed.value } })
  emit('connected')
})
</script>

<template>
  <AskDialog :model-value="service !== null" :title="texts.connectWithCredentials(service?.name ?? '')" :width="480" @update:model-value="emit('close')">
    <p>{{ hint }}</p>
    <form id="credentials" class="fields" @submit.prevent="connect">
      <VTextField
        v-for="field in service?.fields ?? []" :key="field.key" v-model="typed[field.key]" :label="field.label" :type="field.isSecret ? 'password' : 'text'"
        autocomplete="off" :error-messages="errors[field.key] ?? []" hide-details="auto"
      />
    </form>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn color="primary" type="submit" form="credentials" :disabled="sending">{{ sending ? texts.trying : texts.tryAndConnect }}</VBtn>
      <LinkButton @click="emit('close')">{{ texts.cancel }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 12px;
}
</style>
