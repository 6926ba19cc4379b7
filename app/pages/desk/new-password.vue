<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VBtn, VTextField } from 'vuetify/components'
import type { SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { fieldErrors, problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

/** Where the link in the mail about a forgotten password leads. */
definePageMeta({ layout: false })
useHead({ title: texts.newPasswordTemporia, meta: [{ name: 'referrer', content: 'no-referrer' }] })

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
  <EntryFrame :lead="texts.chooseANewPasswordYouAre" @submit="save">
    <template v-if="!isOver">
      <label for="password">{{ texts.newPassword10CharactersOrMore }}</label>
      <VTextField
        id="password" v-model="password" type="password" autocomplete="new-password" autofocus :error-messages="passwordFault || []"
        hide-details="auto"
      />
    </template>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <VBtn v-if="!isOver" type="submit" block size="large" :loading="sending">{{ texts.saveAndSignIn }}</VBtn>
    <p v-else class="other"><NuxtLink to="/desk/forgotten-password">{{ texts.askForANewLink }}</NuxtLink></p>
  </EntryFrame>
</template>
