<script setup lang="ts">
import { texts } from '~/locales/people'
import { VBtn, VTextField } from 'vuetify/components'
import AskDialog from '~/components/desk/AskDialog.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'
import { usePeople } from '~/stores/people'

/** Adds a host who does not sign in. */

const open = defineModel<boolean>({ required: true })
const desk = useDesk()
const people = usePeople()
const notice = useNotice()
const { sending, errors, fault, submit } = useSubmission()
const name = ref('')
const email = ref('')
const timeZone = ref(desk.member?.timeZone ?? 'UTC')

async function add(): Promise<void> {
  errors.value = {
    ...(name.value.trim() ? {} : { name: texts.enterAName }),
    ...(email.value.trim() ? {} : { email: texts.enterAnAddress }),
  }
  if (Object.keys(errors.value).length > 0) return
  const body = { name: name.value, email: email.value.trim(), timeZone: timeZone.value }
  if (await submit(() => $fetch('/api/desk/people/hosts', { method: 'POST', body }))) return
  open.value = false
  notice.show(texts.hostIsAdded(name.value))
  await people.load()
}
</script>

<template>
  <AskDialog v-model="open" :title="texts.addHostTitle" :width="440">
    <p class="quiet">{{ texts.addHostHint }}</p>
    <form id="add-host" class="add" @submit.prevent="add">
      <label for="host-name">{{ texts.name }}</label>
      <VTextField id="host-name" v-model="name" autofocus maxlength="120" :error-messages="errors['name'] ?? []" hide-details="auto" />
      <label for="host-email">{{ texts.email }}</label>
      <VTextField id="host-email" v-model="email" type="email" maxlength="254" :error-messages="errors['email'] ?? []" hide-details="auto" />
      <ZoneField v-model="timeZone" class="zone" :label="texts.timeZone" :locale="desk.locale" :now="desk.now" />
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    </form>
    <template #actions>
      <VBtn type="submit" form="add-host" :loading="sending">{{ texts.add }}</VBtn>
      <LinkButton @click="open = false">{{ texts.cancel }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.add {
  display: grid;
  gap: 6px;
}

label:not(.v-label) {
  font-weight: 600;
}

.zone {
  margin-top: 8px;
}
</style>
