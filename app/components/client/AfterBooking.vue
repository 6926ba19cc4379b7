<script setup lang="ts">
import { texts } from '~/locales/client'
import type { ClientPageView } from '~~/core/views/client'

/** What the event type says to those who have booked, and the address that it leads them on to. */

const props = defineProps<{ afterwards: ClientPageView['afterwards'], stays: boolean }>()
const onward = computed(() => (props.afterwards.address ? new URL(props.afterwards.address).hostname : ''))
/** Only who has just booked is led on; there is time to read, and a way to stay. */
const LEAD_ON_MS = 8000
const leadsOn = ref(false)
onMounted(() => {
  const { address } = props.afterwards
  if (!address || useRoute().query['booked'] === undefined) return
  leadsOn.value = true
  const timer = setTimeout(() => leadsOn.value && window.location.assign(address), LEAD_ON_MS)
  onBeforeUnmount(() => clearTimeout(timer))
})
// Whoever does something with the booking is not led away from it.
watch(() => props.stays, stays => stays && (leadsOn.value = false))
</script>

<template>
  <div class="afterwards">
    <p v-if="afterwards.text">{{ afterwards.text }}</p>
    <p v-if="afterwards.address" role="status">
      <template v-if="leadsOn">{{ texts.youWillBeTakenOn(onward) }} <button type="button" class="word" @click="leadsOn = false">{{ texts.stayHere }}</button></template>
      <a v-else :href="afterwards.address" rel="noopener">{{ texts.continueTo(onward) }}</a>
    </p>
  </div>
</template>

<style scoped>
.afterwards {
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 12px 16px;
  margin: 14px 0 4px;
  white-space: pre-line;
}
</style>
