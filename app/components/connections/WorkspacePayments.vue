<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn } from 'vuetify/components'
import type { PaymentConnections } from '~~/core/views/connections'
import AskDialog from '~/components/desk/AskDialog.vue'
import CredentialsDialog from '~/components/connections/CredentialsDialog.vue'
import { useCalls } from '~/composables/calls'
import { useDesk } from '~/stores/desk'

/** The account that clients pay to. */

const desk = useDesk()
const view = shallowRef<PaymentConnections | null>(null)
const calls = useCalls()
const asked = ref<string | null>(null)
const isLeaving = ref(false)
const service = computed(() => view.value?.services.find(({ key }) => key === asked.value))
const mayChange = computed(() => desk.member?.role === 'owner')

async function load(): Promise<void> {
  view.value = await calls.act(() => $fetch<PaymentConnections>('/api/desk/payments'))
}
onMounted(load)

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
        <LinkButton @click="asked = view.account.service">{{ texts.otherCredentials }}</LinkButton>
        <LinkButton :aria-label="texts.disconnectNamed(view.account.name)" @click="isLeaving = true">{{ texts.disconnect }}</LinkButton>
      </p>
    </template>
    <p v-else>
      {{ texts.noPaymentAccount }}
      <template v-if="mayChange">
        <VBtn v-for="{ key, name } in view.services" :key="key" variant="outlined" size="small" @click="asked = key">{{ texts.connectWithCredentials(name) }}</VBtn>
      </template>
      <span v-else class="quiet">{{ texts.ownersConnectPayments }}</span>
    </p>
  </template>
  <CredentialsDialog
    :service="service ?? null" :hint="texts.paymentCredentialsHint(service?.name ?? '')" :path="`/api/desk/payments/${asked}/connect`"
    @connected="asked = null, load()" @close="asked = null"
  />
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
</style>
