<script setup lang="ts">
import { texts } from '~/locales/account'
import { VBtn, VTextField } from 'vuetify/components'
import type { AccountView } from '~~/core/views/desk'
import { useSubmission } from '~/composables/submission'
import { useNotice } from '~/stores/notice'

/** The address one signs in with, and the change of it that both mailboxes agree to. */

defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()

const notice = useNotice()
const isOpen = ref(false)
const email = ref('')
const password = ref('')
const { sending, errors, fault, submit } = useSubmission()
const path = '/api/desk/account/address'

const ask = () => submit(async () => {
  await $fetch(path, { method: 'POST', body: { email: email.value, password: password.value } })
  isOpen.value = false
  email.value = password.value = ''
  notice.show(texts.linksSent)
  emit('changed')
})

const drop = () => submit(async () => {
  await $fetch(path, { method: 'DELETE' })
  emit('changed')
})

function waitingFor({ email: present, newEmail, oldConfirms, newConfirms }: AccountView): string {
  if (oldConfirms) return texts.waitsFor(newEmail ?? '')
  return newConfirms ? texts.waitsFor(present) : texts.waitsForBoth
}
</script>

<template>
  <section aria-labelledby="address">
    <h2 id="address">{{ texts.address }}</h2>
    <p><strong>{{ account.email }}</strong></p>
    <p class="quiet">{{ texts.addressHint }}</p>
    <p v-if="account.newEmail">
      {{ texts.pending(account.newEmail) }} {{ waitingFor(account) }}
      <LinkButton @click="drop">{{ texts.dropChange }}</LinkButton>
    </p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <LinkButton v-if="!isOpen" @click="isOpen = true">{{ texts.changeAddress }}</LinkButton>
    <form v-else @submit.prevent="ask">
      <VTextField
        v-model="email" type="email" autocomplete="email" :label="texts.newAddress" :error-messages="errors['email'] ?? []"
        hide-details="auto" autofocus
      />
      <VTextField
        v-model="password" type="password" autocomplete="current-password" :label="texts.password" :error-messages="errors['password'] ?? []"
        hide-details="auto"
      />
      <p class="ways">
        <VBtn type="submit" :loading="sending">{{ texts.sendLinks }}</VBtn>
        <LinkButton @click="isOpen = false">{{ texts.cancel }}</LinkButton>
      </p>
    </form>
  </section>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  max-width: 420px;
  margin-top: 8px;
}

.ways {
  display: flex;
  align-items: center;
  gap: 18px;
}
</style>
