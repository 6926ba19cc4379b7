<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VBtn } from 'vuetify/components'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { useSubmission } from '~/composables/submission'

/** Where the links about a change of address lead. A press agrees: mail programs follow links by themselves. */
definePageMeta({ layout: false })
useHead({ title: texts.changeAddressTemporia, meta: [{ name: 'referrer', content: 'no-referrer' }] })

const token = String(useRoute().query['token'] ?? '')
const outcome = shallowRef<{ state: 'changed' | 'waiting', email: string } | null>(null)
const { sending, fault, submit } = useSubmission()

const agree = () => submit(async () => {
  outcome.value = await $fetch('/api/desk/account-address/confirm', { method: 'POST', body: { token } })
})
</script>

<template>
  <EntryFrame :lead="texts.changeAddressLead" @submit="agree">
    <p v-if="outcome?.state === 'changed'">{{ texts.addressChanged(outcome.email) }} <NuxtLink to="/desk">{{ texts.goToSignIn }}</NuxtLink></p>
    <p v-else-if="outcome">{{ texts.otherMailboxNext(outcome.email) }}</p>
    <template v-else>
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <VBtn type="submit" block size="large" :loading="sending">{{ texts.agreeToChange }}</VBtn>
    </template>
  </EntryFrame>
</template>
