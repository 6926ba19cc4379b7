<script setup lang="ts">
import { VBtn, VTextField } from 'vuetify/components'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { problemOf } from '~/composables/problem'

definePageMeta({ layout: false })
useHead({ title: 'Forgotten password · Temporia' })

const email = ref('')
const missing = ref(false)
const sent = ref(false)
const fault = ref('')
const sending = ref(false)

async function send(): Promise<void> {
  missing.value = email.value.trim() === ''
  if (missing.value || sent.value) return
  sending.value = true
  fault.value = ''
  try {
    await $fetch('/api/desk/password/forgotten', { method: 'POST', body: { email: email.value } })
    sent.value = true
  } catch (error) {
    fault.value = problemOf(error).message
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <EntryFrame :lead="sent ? 'Look into your mail' : 'Choose a new password'" @submit="send">
    <template v-if="!sent">
      <label for="email">E-mail</label>
      <VTextField
        id="email" v-model="email" type="email" autocomplete="username" autofocus
        :error-messages="missing ? 'Write your address' : []" hide-details="auto"
      />
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <VBtn type="submit" block size="large" :loading="sending">Mail me a link</VBtn>
    </template>
    <p v-else role="status">If <strong>{{ email }}</strong> belongs to a member, a link to a new password is on its way. It holds for one hour.</p>
    <p class="other"><NuxtLink to="/desk/sign-in">Back to sign in</NuxtLink></p>
  </EntryFrame>
</template>
