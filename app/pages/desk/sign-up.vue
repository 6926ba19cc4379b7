<script setup lang="ts">
import { VBtn, VTextField } from 'vuetify/components'
import { isZoneName } from '~~/core/time/zone'
import type { SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { fieldErrors, problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: false })
useHead({ title: 'Sign up · Temporia' })

const fields = [
  {
    name: 'workspace',
    label: 'What is your business called?',
    type: 'text',
    autocomplete: 'organization',
    missing: 'Write what your business is called',
  },
  { name: 'name', label: 'Your name', type: 'text', autocomplete: 'name', missing: 'Write your name' },
  { name: 'email', label: 'E-mail', type: 'email', autocomplete: 'username', missing: 'Write your address' },
  {
    name: 'password',
    label: 'Password, 10 characters or more',
    type: 'password',
    autocomplete: 'new-password',
    missing: 'Write a password',
  },
] as const
const given = ref<Record<string, string>>({})
const errors = ref<Record<string, string>>({})
const message = ref('')
const sending = ref(false)

async function enter(): Promise<void> {
  errors.value = Object.fromEntries(fields.filter(field => !given.value[field.name]?.trim()).map(field => [field.name, field.missing]))
  if (Object.keys(errors.value).length > 0) return
  sending.value = true
  message.value = ''
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
  try {
    useDesk().signIn(
      await $fetch<SignedIn>('/api/desk/sign-up', { method: 'POST', body: { ...given.value, timeZone: isZoneName(zone) ? zone : 'UTC', clock: useDesk().clock } }),
    )
    await navigateTo('/desk/begin')
  } catch (error) {
    const { message: problem, document } = problemOf(error)
    errors.value = fieldErrors(document)
    if (Object.keys(errors.value).length === 0) message.value = problem
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <EntryFrame lead="In two minutes you have a page where clients book a meeting with you." @submit="enter">
    <template v-for="(field, index) in fields" :key="field.name">
      <label :for="field.name">{{ field.label }}</label>
      <VTextField
        :id="field.name" v-model="given[field.name]" :type="field.type" :autocomplete="field.autocomplete"
        :autofocus="index === 0" :error-messages="errors[field.name] ?? []" hide-details="auto"
      />
    </template>
    <p v-if="message" class="broken" role="alert">{{ message }}</p>
    <VBtn type="submit" block size="large" :loading="sending">Continue to four questions</VBtn>
    <p class="other">Signed up already? <NuxtLink to="/desk/sign-in">Sign in</NuxtLink></p>
  </EntryFrame>
</template>
