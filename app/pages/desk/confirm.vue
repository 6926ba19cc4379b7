<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VBtn, VTextField } from 'vuetify/components'
import type { SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { fieldErrors, problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

/** Where the link in the mail of a sign-up leads. */

definePageMeta({ layout: false })
useHead({ title: texts.confirmYourAddressTemporia, meta: [{ name: 'referrer', content: 'no-referrer' }] })

const desk = useDesk()
const token = String(useRoute().query['token'] ?? '')
const state = ref<'loading' | 'password' | 'confirmed' | 'refused' | 'failed'>('loading')
const password = ref('')
const passwordError = ref('')
const message = ref('')
const sending = ref(false)

const lead = computed(() => ({
  loading: texts.confirmingYourAddress,
  password: texts.enterThePasswordOfTheSignUp,
  confirmed: texts.yourAddressIsConfirmed,
  refused: texts.whatWasEnteredIsDeleted,
  failed: message.value,
})[state.value])

async function confirm(withPassword: boolean): Promise<void> {
  sending.value = true
  passwordError.value = ''
  try {
    desk.signIn(
      await $fetch<SignedIn>('/api/desk/confirm', {
        method: 'POST',
        body: { token, ...(withPassword ? { password: password.value } : {}) },
      }),
    )
    state.value = 'confirmed'
  } catch (error) {
    const { message: why, document } = problemOf(error)
    const wrong = fieldErrors(document)['password']
    if (wrong === undefined) {
      message.value = why
      state.value = 'failed'
    } else {
      passwordError.value = withPassword ? wrong : ''
      state.value = 'password'
    }
  } finally {
    sending.value = false
  }
}

async function refuse(): Promise<void> {
  sending.value = true
  try {
    await $fetch('/api/desk/confirm/refuse', { method: 'POST', body: { token } })
    state.value = 'refused'
  } catch (error) {
    message.value = problemOf(error).message
    state.value = 'failed'
  } finally {
    sending.value = false
  }
}

onMounted(() => void confirm(false))

async function next(): Promise<void> {
  if (state.value === 'password') await confirm(true)
  else if (state.value === 'confirmed') await navigateTo('/desk')
}
</script>

<template>
  <EntryFrame :lead="lead" @submit="next">
    <template v-if="state === 'password'">
      <label for="password">{{ texts.password }}</label>
      <VTextField
        id="password" v-model="password" type="password" autocomplete="current-password" autofocus
        :error-messages="passwordError" hide-details="auto"
      />
      <VBtn type="submit" block size="large" :loading="sending">{{ texts.confirmMyAddress }}</VBtn>
      <p class="other">{{ texts.somebodyElseSignedUp }} <LinkButton :disabled="sending" @click="refuse">{{ texts.deleteWhatTheyEntered }}</LinkButton></p>
    </template>
    <VBtn v-else-if="state === 'confirmed'" type="submit" block size="large">{{ texts.goToYourDesk }}</VBtn>
    <p v-else-if="state === 'failed'" class="other"><NuxtLink to="/desk/sign-in">{{ texts.signIn }}</NuxtLink> {{ texts.or }} <NuxtLink to="/desk/sign-up">{{ texts.signUp }}</NuxtLink></p>
  </EntryFrame>
</template>
