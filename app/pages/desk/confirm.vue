<script setup lang="ts">
import { VBtn, VTextField } from 'vuetify/components'
import type { SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { fieldErrors, problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

/** Where the link in the mail of a sign-up leads. */

definePageMeta({ layout: false })
useHead({ title: 'Confirm your address · Temporia', meta: [{ name: 'referrer', content: 'no-referrer' }] })

const desk = useDesk()
const token = String(useRoute().query['token'] ?? '')
const state = ref<'loading' | 'password' | 'confirmed' | 'refused' | 'failed'>('loading')
const password = ref('')
const passwordError = ref('')
const message = ref('')
const sending = ref(false)

const lead = computed(() => ({
  loading: 'Confirming your address…',
  password: 'Enter the password that you chose when you signed up, so that nobody else can use your address.',
  confirmed: 'Your address is confirmed. Clients can see your pages now.',
  refused: 'What was entered with your address is deleted. Nothing more will come.',
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
      <label for="password">Password</label>
      <VTextField
        id="password" v-model="password" type="password" autocomplete="current-password" autofocus
        :error-messages="passwordError" hide-details="auto"
      />
      <VBtn type="submit" block size="large" :loading="sending">Confirm my address</VBtn>
      <p class="other">Somebody else signed up with your address? <LinkButton :disabled="sending" @click="refuse">Delete what they entered</LinkButton></p>
    </template>
    <VBtn v-else-if="state === 'confirmed'" type="submit" block size="large">Go to your desk</VBtn>
    <p v-else-if="state === 'failed'" class="other"><NuxtLink to="/desk/sign-in">Sign in</NuxtLink> or <NuxtLink to="/desk/sign-up">sign up</NuxtLink></p>
  </EntryFrame>
</template>
