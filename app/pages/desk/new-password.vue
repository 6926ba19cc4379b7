<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VBtn, VTextField } from 'vuetify/components'
import type { SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'

/** Where the link in the mail about a forgotten password leads. */
definePageMeta({ layout: false })
useHead({ title: texts.newPasswordTemporia, meta: [{ name: 'referrer', content: 'no-referrer' }] })

const token = String(useRoute().query['token'] ?? '')
const password = ref('')
const isOver = ref(false)
/** The second factor is given where one signs in. */
const isSaved = ref(false)
const { sending, errors, fault, submit } = useSubmission()

async function save(): Promise<void> {
  const problem = await submit(async () => {
    const { member } = await $fetch<{ member: SignedIn | null }>('/api/desk/password/new', {
      method: 'POST', body: { token, password: password.value },
    })
    if (!member) {
      isSaved.value = true
      return
    }
    useDesk().signIn(member)
    await navigateTo('/desk')
  })
  isOver.value = problem?.document?.status === 404
}
</script>

<template>
  <EntryFrame :lead="texts.newPasswordLead" @submit="save">
    <p v-if="isSaved">{{ texts.signInWithCode }} <NuxtLink to="/desk/sign-in">{{ texts.goToSignIn }}</NuxtLink></p>
    <template v-else-if="!isOver">
      <label for="password">{{ texts.newPasswordLabel }}</label>
      <VTextField
        id="password" v-model="password" type="password" autocomplete="new-password" autofocus :error-messages="errors['password'] ?? []"
        hide-details="auto"
      />
    </template>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <VBtn v-if="!isOver && !isSaved" type="submit" block size="large" :loading="sending">{{ texts.saveAndSignIn }}</VBtn>
    <p v-else-if="isOver" class="other"><NuxtLink to="/desk/forgotten-password">{{ texts.askForANewLink }}</NuxtLink></p>
  </EntryFrame>
</template>
