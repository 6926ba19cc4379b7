<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VBtn, VTextField } from 'vuetify/components'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { useSubmission } from '~/composables/submission'

definePageMeta({ layout: false })
useHead({ title: texts.forgottenPasswordTemporia })

const email = ref('')
const missing = ref(false)
const sent = ref(false)
const { sending, fault, submit } = useSubmission()

async function send(): Promise<void> {
  missing.value = email.value.trim() === ''
  if (missing.value || sent.value) return
  await submit(async () => {
    await $fetch('/api/desk/password/forgotten', { method: 'POST', body: { email: email.value } })
    sent.value = true
  })
}
</script>

<template>
  <EntryFrame :lead="sent ? texts.lookIntoYourMail : texts.chooseANewPassword" @submit="send">
    <template v-if="!sent">
      <label for="email">{{ texts.eMail }}</label>
      <VTextField
        id="email" v-model="email" type="email" autocomplete="username" autofocus
        :error-messages="missing ? texts.writeYourAddress : []" hide-details="auto"
      />
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <VBtn type="submit" block size="large" :loading="sending">{{ texts.mailMeALink }}</VBtn>
    </template>
    <p v-else role="status">{{ texts.ifTheAddress }} <strong>{{ email }}</strong> {{ texts.belongsToAMember }}</p>
    <p class="other"><NuxtLink to="/desk/sign-in">{{ texts.backToSignIn }}</NuxtLink></p>
  </EntryFrame>
</template>
