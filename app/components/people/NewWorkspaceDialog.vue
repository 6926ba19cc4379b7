<script setup lang="ts">
import { texts } from '~/locales/people'
import { VBtn, VTextField } from 'vuetify/components'
import type { SignedIn } from '~~/core/views/desk'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'

/** Names another workspace of one's own; what is on the screen belongs to this one, so the new one begins anew. */

const open = defineModel<boolean>({ required: true })
const { sending, errors, fault, submit } = useSubmission()
const name = ref('')

async function create(): Promise<void> {
  errors.value = name.value.trim() ? {} : { name: texts.enterAName }
  if (errors.value['name']) return
  const problem = await submit(() => $fetch<SignedIn>('/api/desk/workspaces', { method: 'POST', body: { name: name.value } }))
  if (!problem) window.location.assign('/desk/begin')
}
</script>

<template>
  <AskDialog v-model="open" :title="texts.newWorkspace" :width="420">
    <form id="new-workspace" @submit.prevent="create">
      <label for="workspace-name">{{ texts.workspaceName }}</label>
      <VTextField
        id="workspace-name" v-model="name" autofocus maxlength="120" :error-messages="errors['name'] ?? []" hide-details="auto"
      />
    </form>
    <p class="quiet">{{ texts.newWorkspaceHint }}</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn type="submit" form="new-workspace" :loading="sending">{{ texts.createWorkspace }}</VBtn>
      <LinkButton @click="open = false">{{ texts.cancel }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
label {
  display: block;
  font-weight: 600;
  margin-bottom: 6px;
}
</style>
