<script setup lang="ts">
import { texts } from '~/locales/client'
import { problemOf } from '~/composables/problem'

/** Asks once more before a booking is cancelled, and for a reason. */

const props = defineProps<{ path: string, hosts: string, time: string, terms?: string | null }>()
const emit = defineEmits<{ cancelled: [], keep: [] }>()
const reason = ref('')
const fault = ref('')
const sending = ref(false)
const form = useTemplateRef<HTMLFormElement>('form')

/** What must be confirmed comes into sight, with the cursor in it. */
onMounted(() => {
  form.value?.scrollIntoView({ behavior: 'smooth', block: 'center' })
  form.value?.querySelector('textarea')?.focus({ preventScroll: true })
})

async function cancel(): Promise<void> {
  sending.value = true
  fault.value = ''
  try {
    await $fetch(`${props.path}/cancel`, { method: 'POST', body: reason.value.trim() ? { reason: reason.value.trim() } : {} })
    emit('cancelled')
  } catch (error) {
    const { document, message } = problemOf(error)
    fault.value = document ? message : texts.itCouldNotBeCancelled
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <form ref="form" class="cancel" @submit.prevent="cancel">
    <label for="reason">{{ texts.whyAreYouCancelling }} <span class="quiet">{{ texts.optionalWillReadIt(hosts) }}</span></label>
    <textarea id="reason" v-model="reason" rows="2" maxlength="500" />
    <p v-if="terms" class="quiet">{{ terms }}</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <div class="actions">
      <button type="submit" class="press grave" :disabled="sending">{{ time }}</button>
      <button type="button" class="word" @click="emit('keep')">{{ texts.keepTheBooking }}</button>
    </div>
  </form>
</template>

<style src="./actions.css"></style>

<style scoped>
.cancel {
  display: grid;
  gap: 8px;
}

.cancel textarea {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 8px 10px;
}
</style>
