<script setup lang="ts">
import { texts } from '~/locales/people'
import { VBtn, VCheckbox, VRadio, VRadioGroup, VTextField } from 'vuetify/components'
import { type MemberRole, memberRoles } from '~~/core/account/roles'
import AskDialog from '~/components/desk/AskDialog.vue'
import { roleWords } from '~/composables/roles'
import { useSubmission } from '~/composables/submission'
import { useNotice } from '~/stores/notice'
import { usePeople } from '~/stores/people'

/** Invites somebody by mail. */

const open = defineModel<boolean>({ required: true })
const people = usePeople()
const notice = useNotice()
const { sending, errors, fault, submit } = useSubmission()
const name = ref('')
const email = ref('')
const role = ref<MemberRole>('host')
const hosts = ref(true)

async function send(): Promise<void> {
  errors.value = {
    ...(name.value.trim() ? {} : { name: texts.enterAName }),
    ...(email.value.trim() ? {} : { email: texts.enterAnAddress }),
  }
  if (Object.keys(errors.value).length > 0) return
  const body = { name: name.value, email: email.value.trim(), role: role.value, hosts: hosts.value }
  const problem = await submit(() => $fetch('/api/desk/people/invitations', { method: 'POST', body }))
  if (problem) return
  open.value = false
  notice.show(texts.invited(body.email))
  await people.load()
}
</script>

<template>
  <AskDialog v-model="open" :title="texts.inviteTitle" :width="480">
    <form id="invite" class="invite" @submit.prevent="send">
      <label for="invite-name">{{ texts.name }}</label>
      <VTextField id="invite-name" v-model="name" autofocus maxlength="120" :error-messages="errors['name'] ?? []" hide-details="auto" />
      <label for="invite-email">{{ texts.email }}</label>
      <VTextField id="invite-email" v-model="email" type="email" maxlength="254" :error-messages="errors['email'] ?? []" hide-details="auto" />
      <VRadioGroup v-model="role" :aria-label="texts.role" hide-details>
        <VRadio v-for="choice in memberRoles" :key="choice" :value="choice">
          <template #label>
            <span class="role"><strong>{{ roleWords[choice].name }}</strong><span class="quiet">{{ roleWords[choice].may }}</span></span>
          </template>
        </VRadio>
      </VRadioGroup>
      <VCheckbox v-if="role !== 'host'" v-model="hosts" :label="texts.theyHost" hide-details />
      <p v-if="role === 'host' || hosts" class="quiet">{{ texts.theyHostHint }}</p>
      <p class="quiet">{{ texts.linkHolds }}</p>
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    </form>
    <template #actions>
      <VBtn type="submit" form="invite" :loading="sending">{{ texts.sendInvitation }}</VBtn>
      <LinkButton @click="open = false">{{ texts.cancel }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.invite {
  display: grid;
  gap: 6px;
}

label:not(.v-label) {
  font-weight: 600;
}

.role {
  font-size: 14px;
  line-height: 1.35;
  padding: 4px 0;
}

.role .quiet {
  display: block;
  font-size: 13px;
}
</style>
