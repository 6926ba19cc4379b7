<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VBtn, VTextField } from 'vuetify/components'
import { isZoneName } from '~~/core/time/zone'
import type { SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: false })
useHead({ title: texts.signUpTemporia })

const fields = [
  {
    name: 'workspace',
    label: texts.whatIsYourBusinessCalled,
    type: 'text',
    autocomplete: 'organization',
    missing: texts.writeWhatYourBusinessIsCalled,
  },
  { name: 'name', label: texts.yourName, type: 'text', autocomplete: 'name', missing: texts.writeYourName },
  { name: 'email', label: 'E-mail', type: 'email', autocomplete: 'username', missing: texts.writeYourAddress },
  {
    name: 'password',
    label: texts.passwordLabel,
    type: 'password',
    autocomplete: 'new-password',
    missing: texts.writeAPassword,
  },
] as const
const given = ref<Record<string, string>>({})
const { sending, errors, fault, submit } = useSubmission()

async function enter(): Promise<void> {
  errors.value = Object.fromEntries(fields.filter(field => !given.value[field.name]?.trim()).map(field => [field.name, field.missing]))
  if (Object.keys(errors.value).length > 0) return
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
  const body = { ...given.value, timeZone: isZoneName(zone) ? zone : 'UTC', clock: useDesk().clock }
  await submit(async () => {
    useDesk().signIn(await $fetch<SignedIn>('/api/desk/sign-up', { method: 'POST', body }))
    await navigateTo('/desk/begin')
  })
}
</script>

<template>
  <EntryFrame :lead="texts.signUpLead" @submit="enter">
    <template v-for="(field, index) in fields" :key="field.name">
      <label :for="field.name">{{ field.label }}</label>
      <VTextField
        :id="field.name" v-model="given[field.name]" :type="field.type" :autocomplete="field.autocomplete"
        :autofocus="index === 0" :error-messages="errors[field.name] ?? []" hide-details="auto"
      />
    </template>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <VBtn type="submit" block size="large" :loading="sending">{{ texts.continueToFourQuestions }}</VBtn>
    <p class="other">{{ texts.signedUpAlready }} <NuxtLink to="/desk/sign-in">{{ texts.signIn }}</NuxtLink></p>
  </EntryFrame>
</template>
