<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

/** Reminds a member to follow the mailed link; looks now and then whether it was followed elsewhere. */

const desk = useDesk()
const sent = ref('')
const sending = ref(false)

async function send(): Promise<void> {
  sending.value = true
  try {
    await $fetch('/api/desk/confirm/send', { method: 'POST' })
    sent.value = texts.sentAgain
  } catch (error) {
    sent.value = problemOf(error).message
    await desk.load()
  } finally {
    sending.value = false
  }
}

const CHECK_SECONDS = 20
onMounted(() => {
  const timer = setInterval(() => void desk.load(), CHECK_SECONDS * 1000)
  onBeforeUnmount(() => clearInterval(timer))
})
</script>

<template>
  <p class="desk-banner" role="status">
    <span>{{ texts.clientsCannotSeeYourPagesYet }} <strong>{{ desk.member?.email }}</strong>.</span>
    <span v-if="sent">{{ sent }}</span>
    <LinkButton v-else :disabled="sending" @click="send">{{ texts.sendItAgain }}</LinkButton>
  </p>
</template>
