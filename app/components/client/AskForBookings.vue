<script setup lang="ts">
import { texts } from '~/locales/client'
import { fieldErrors, problemOf } from '~/composables/problem'

/** Has the link to all bookings mailed to whoever has made them. */

const props = defineProps<{ workspace: string }>()
const path: string = '/api/public/bookings/lists'
const email = ref('')
const sentTo = ref('')
const fault = ref('')
const sending = ref(false)

async function ask(): Promise<void> {
  sending.value = true
  fault.value = ''
  try {
    await $fetch<unknown>(path, { method: 'POST', body: { workspace: props.workspace, email: email.value.trim() } })
    sentTo.value = email.value.trim()
  } catch (error) {
    const { message, document } = problemOf(error)
    fault.value = fieldErrors(document)['email'] ?? message
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <p v-if="sentTo" role="status">{{ texts.listIsOnItsWay(sentTo) }}</p>
  <form v-else class="ask-for-bookings" novalidate @submit.prevent="ask">
    <label for="list-email">{{ texts.yourEMailAddress }}</label>
    <div class="line">
      <input id="list-email" v-model="email" type="email" autocomplete="email" maxlength="254" :aria-invalid="fault !== ''" aria-describedby="list-fault">
      <button type="submit" class="press light" :disabled="sending">{{ texts.sendMeTheLink }}</button>
    </div>
    <p id="list-fault" class="broken" role="alert">{{ fault }}</p>
  </form>
</template>

<style scoped>
.ask-for-bookings {
  display: grid;
  gap: 4px;
  max-width: 30rem;
}

.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}

input {
  flex: 1 1 14rem;
  min-width: 0;
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 8px 10px;
}
</style>
