<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VTextField } from 'vuetify/components'
import type { PaymentConnections } from '~~/core/views/connections'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useCalls } from '~/composables/calls'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'

/** The account that clients pay to. */

const desk = useDesk()
const view = shallowRef<PaymentConnections | null>(null)
const calls = useCalls()
const { sending, errors, fault, submit } = useSubmission()
const asked = ref<string | null>(null)
const typed = ref<Record<string, string>>({})
const isLeaving = ref(false)
const service = computed(() => view.value?.services.find(({ key }) => key === asked.value))
const mayChange = computed(() => desk.member?.role === 'owner')

async function load(): Promise<void> {
  view.value = await calls.act(() => $fetch<PaymentConnections>('/api/desk/payments'))
}
onMounted(load)

function ask(key: string): void {
  asked.value = key
  typed.value = {}
  errors.value = {}
  fault.value = ''
}

const connect = () => submit(async () => {
  const path: string = `/api/desk/payments/${asked.value}/connect`
  await $fetch(path, { method: 'POST', body: { fields: typed.value } })
  asked.value = null
  await load()
})

async function disconnect(): Promise<void> {
  await calls.act(() => $fetch('/api/desk/payments/disconnect', { method: 'POST' }))
  isLeaving.value = false
  await load()
}
</script>

<template>
  <p v-if="calls.fault.value" class="broken" role="alert">{{ calls.fault.value }}</p>
  <template v-if="view">
    <p v-if="view.services.length === 0">{{ texts.noPaymentServiceIsSetUp }}</p>
    <template v-else-if="view.account">
      <p><strong>{{ view.account.label }}</strong>, {{ view.account.name }}</p>
      <p v-if="mayChange" class="links">
        <LinkButton @click="ask(view.account.service)">{{ texts.otherCredentials }}</LinkButton>
        <LinkButton :aria-label="texts.disconnectNamed(view.account.name)" @click="isLeaving = true">{{ texts.disconnect }}</LinkButton>
      </p>
    </template>
    <p v-else>
      {{ texts.noPaymentAccount }}
      <template v-if="mayChange">
        <VBtn v-for="{ key, name } in view.services" :key="key" variant="outlined" size="small" @click="ask(key)">{{ texts.connectWithCredentials(name) }}</VBtn>
      </template>
      <span v-else class="quiet">{{ texts.ownersConnectPayments }}</span>
    </p>
  </template>
  <AskDialog :model-value="asked !== null" :title="texts.connectWithCredentials(service?.name ?? '')" :width="480" @update:model-value="asked = null">
    <p>{{ texts.paymentCredentialsHint(service?.name ?? '') }}</p>
    <form id="payment-credentials" class="fields" @submit.prevent="connect">
      <VTextField
        v-for="field in service?.fields ?? []" :key="field.key" v-model="typed[field.key]" :label="field.label" :type="field.isSecret ? 'password' : 'text'"
        autocomplete="off" :error-messages="errors[field.key] ?? []" hide-details="auto"
      />
    </form>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn color="primary" type="submit" form="payment-credentials" :disabled="sending">{{ sending ? texts.trying : texts.tryAndConnect }}</VBtn>
      <LinkButton @click="asked = null">{{ texts.cancel }}</LinkButton>
    </template>
  </AskDialog>
  <AskDialog v-model="isLeaving" :title="texts.disconnectTitle(view?.account?.name ?? '')" :width="520">
    <p>{{ texts.whatDisconnectingPaymentsMeans }}</p>
    <template #actions>
      <VBtn color="error" @click="disconnect">{{ texts.disconnect }}</VBtn>
      <LinkButton @click="isLeaving = false">{{ texts.keepItConnected }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.links {
  display: flex;
  gap: 20px;
  margin-top: 8px;
}

.fields {
  display: grid;
  gap: 12px;
}
</style>
