<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VBtn, VTextField } from 'vuetify/components'
import type { SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: false })
useHead({ title: texts.signInTemporia })

const email = ref('')
const password = ref('')
/** Asked for once the server says that there is a second factor. */
const code = ref('')
const isCodeAsked = ref(false)
const { sending, errors, fault, submit } = useSubmission()

async function enter(): Promise<void> {
  errors.value = {
    ...(email.value.trim() ? {} : { email: texts.writeYourAddress }),
    ...(password.value ? {} : { password: texts.writeYourPassword }),
  }
  if (Object.keys(errors.value).length > 0) return
  const body = { email: email.value, password: password.value, ...(code.value.trim() ? { code: code.value } : {}) }
  const problem = await submit(async () => {
    useDesk().signIn(await $fetch<SignedIn>('/api/desk/sign-in', { method: 'POST', body }))
    const to = useRoute().query['to']
    await navigateTo(typeof to === 'string' && /^\/desk(\/|$)/.test(to) ? to : '/desk')
  })
  if (!problem || !('code' in errors.value) || isCodeAsked.value) return
  isCodeAsked.value = true
  errors.value = {}
}
</script>

<template>
  <EntryFrame :lead="texts.signInToYourWorkspace" @submit="enter">
    <label for="email">{{ texts.eMail }}</label>
    <VTextField id="email" v-model="email" type="email" autocomplete="username" autofocus :error-messages="errors['email'] ?? []" hide-details="auto" />
    <label for="password">{{ texts.password }}</label>
    <VTextField
      id="password" v-model="password" type="password" autocomplete="current-password" :error-messages="errors['password'] ?? []"
      hide-details="auto"
    />
    <template v-if="isCodeAsked">
      <label for="code">{{ texts.code }}</label>
      <VTextField
        id="code" v-model="code" autocomplete="one-time-code" inputmode="numeric" autofocus :hint="texts.codeHint" persistent-hint
        :error-messages="errors['code'] ?? []" hide-details="auto"
      />
    </template>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <VBtn type="submit" block size="large" :loading="sending">{{ texts.signIn }}</VBtn>
    <p class="other"><NuxtLink to="/desk/forgotten-password">{{ texts.forgottenPassword }}</NuxtLink></p>
    <p class="other">{{ texts.newHere }} <NuxtLink to="/desk/sign-up">{{ texts.signUpLink }}</NuxtLink></p>
  </EntryFrame>
</template>
