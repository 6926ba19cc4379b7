<script setup lang="ts">
import { texts } from '~/locales/client'
import type { PaymentView } from '~~/core/payment/payment'
import { formatPrice } from '~~/core/payment/price'
import { instantToSeconds } from '~~/core/time/civil'
import { formatTime } from '~~/core/time/format'

/** What is held for a client until they have paid, and whoever comes back from paying. */

const props = defineProps<{
  path: string
  payment: PaymentView
  terms: string | null
  zone: string
  locale: string
  /** Whether the client has just been where it is paid. */
  wasPaying: boolean
  /** Whether they could not be sent there. */
  isUnpayable: boolean
}>()
const emit = defineEmits<{ checked: [] }>()

const until = computed(() => (props.payment.expiresAt ? formatTime(instantToSeconds(props.payment.expiresAt), props.zone, props.locale) : ''))

/** The service is asked until this is no longer shown. */
const CHECK_MS = 4000
/** After so many questions that were answered, a client is told that nothing has arrived. */
const PATIENCE = 2
const answers = ref(0)
const asks = computed(() => props.wasPaying && answers.value < PATIENCE)
const words = computed(() => {
  if (!props.wasPaying) return texts.heldUntil(until.value)
  return asks.value ? texts.askingForPayment : texts.nothingArrived(until.value)
})
onMounted(() => {
  if (!props.wasPaying) return
  const check = async () => {
    if (await $fetch(`${props.path}/payment`, { method: 'POST' }).catch(() => null)) answers.value++
    emit('checked')
  }
  void check()
  const timer = setInterval(check, CHECK_MS)
  onBeforeUnmount(() => clearInterval(timer))
})
</script>

<template>
  <div class="paying" role="status">
    <p>{{ words }}</p>
    <p v-if="isUnpayable" class="broken" role="alert">{{ texts.cannotBePaidNow }}</p>
    <a v-if="payment.payUrl" class="press" :class="{ light: asks }" :href="payment.payUrl">{{ texts.payNow(formatPrice(payment, locale)) }}</a>
    <p v-if="terms" class="quiet">{{ terms }}</p>
  </div>
</template>

<style src="./actions.css"></style>

<style scoped>
.paying {
  margin-top: 14px;
  display: grid;
  gap: 10px;
  justify-items: start;
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 14px 16px;
}
</style>
