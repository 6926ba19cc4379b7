<script setup lang="ts">
import { texts } from '~/locales/people'
import { VBtn, VTextField } from 'vuetify/components'
import { isZoneName } from '~~/core/time/zone'
import type { InvitationView, SignedIn } from '~~/core/views/desk'
import EntryFrame from '~/components/desk/EntryFrame.vue'
import { problemOf } from '~/composables/problem'
import { roleWords } from '~/composables/roles'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'

/** Where the link in the mail of an invitation leads. */
definePageMeta({ layout: false })
useHead({ title: texts.invitationTemporia, meta: [{ name: 'referrer', content: 'no-referrer' }] })

const desk = useDesk()
const token = String(useRoute().query['token'] ?? '')
const invitation = shallowRef<InvitationView | null>(null)
const failed = ref('')
const name = ref('')
const password = ref('')
const { sending, errors, fault, submit } = useSubmission()

async function load(): Promise<void> {
  try {
    invitation.value = await $fetch<InvitationView>('/api/desk/invitation', { query: { token } })
    name.value ||= invitation.value.name
  } catch (error) {
    failed.value = problemOf(error).message
  }
}
onMounted(load)

const over = { accepted: texts.accepted, withdrawn: texts.withdrawnState, expired: texts.expiredState }
const lead = computed(() => {
  const found = invitation.value
  if (!found) return failed.value || texts.checking
  return found.state === 'open' ? texts.invitesYou(found.by, found.workspace) : over[found.state]
})
/** Somebody with another address is signed in in this browser. */
const other = computed(() => {
  const { account, signedInAs } = invitation.value ?? {}
  return account !== 'signedIn' && signedInAs ? signedInAs : null
})

async function accept(): Promise<void> {
  const found = invitation.value
  if (!found || found.state !== 'open' || other.value) return
  errors.value = name.value.trim() ? {} : { name: texts.enterAName }
  if (errors.value['name']) return
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
  const body = {
    token,
    name: name.value,
    password: found.account === 'signedIn' ? null : password.value || null,
    timeZone: isZoneName(zone) ? zone : 'UTC',
    clock: desk.clock,
  }
  const problem = await submit(async () => {
    desk.signIn(await $fetch<SignedIn>('/api/desk/invitation', { method: 'POST', body }))
    await navigateTo('/desk')
  })
  if (problem?.document?.status === 409) await load()
}

async function signOut(): Promise<void> {
  await desk.signOut()
  await load()
}
</script>

<template>
  <EntryFrame :lead="lead" @submit="accept">
    <template v-if="invitation?.state === 'open'">
      <p>{{ texts.asRole(roleWords[invitation.role].phrase, invitation.hosts && invitation.role !== 'host') }}</p>
      <template v-if="other">
        <p>{{ texts.invitationFor(invitation.email, other) }}</p>
        <VBtn block size="large" @click="signOut">{{ texts.signOut }}</VBtn>
      </template>
      <template v-else>
        <label for="name">{{ texts.yourName }}</label>
        <VTextField id="name" v-model="name" autocomplete="name" maxlength="120" :error-messages="errors['name'] ?? []" hide-details="auto" />
        <p v-if="invitation.account === 'signedIn'" class="quiet">{{ texts.signedInAs(invitation.email) }}</p>
        <template v-else>
          <label for="password">{{ invitation.account === 'new' ? texts.choosePassword : texts.yourPassword(invitation.email) }}</label>
          <VTextField
            id="password" v-model="password" type="password" :autocomplete="invitation.account === 'new' ? 'new-password' : 'current-password'"
            :error-messages="errors['password'] ?? []" hide-details="auto"
          />
        </template>
        <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
        <VBtn type="submit" block size="large" :loading="sending">{{ texts.join(invitation.workspace) }}</VBtn>
      </template>
    </template>
    <p v-else-if="invitation || failed" class="other"><NuxtLink to="/desk/sign-in">{{ texts.signIn }}</NuxtLink></p>
  </EntryFrame>
</template>
