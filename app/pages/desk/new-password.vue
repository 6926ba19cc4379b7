<script setup lang="ts">
import { VBtn, VTextField } from 'vuetify/components'
import type { SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { fieldErrors, problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

/** Where the link in the mail about a forgotten password leads. */
definePageMeta({ layout: false })
useHead({ title: 'New password · Temporia', meta: [{ name: 'referrer', content: 'no-referrer' }] })

const token = String(useRoute().query['token'] ?? '')
const password = ref('')
const passwordFault = ref('')
const fault = ref('')
const isOver = ref(false)
const sending = ref(false)

async function save(): Promise<void> {
  sending.value = true
  fault.value = ''
  passwordFault.value = ''
  try {
    useDesk().signIn(await $fetch<SignedIn>('/api/desk/password/new', { method: 'POST', body: { token, password: password.value } }))
    await navigateTo('/desk')
  } catch (error) {
    const { message, document } = problemOf(error)
    passwordFault.value = fieldErrors(document)['password'] ?? ''
    if (passwordFault.value === '') fault.value = message
    isOver.value = document?.status === 404
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <EntryFrame lead="Choose a new password. You are signed out everywhere else." @submit="save">
    <template v-if="!isOver">
      <label for="password">New password, 10 characters or more</label>
      <VTextField
        id="password" v-model="password" type="password" autocomplete="new-password" autofocus :error-messages="passwordFault || []"
        hide-details="auto"
      />
    </template>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <VBtn v-if="!isOver" type="submit" block size="large" :loading="sending">Save and sign in</VBtn>
    <p v-else class="other"><NuxtLink to="/desk/forgotten-password">Ask for a new link</NuxtLink></p>
  </EntryFrame>
</template>
