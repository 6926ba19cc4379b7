<script setup lang="ts">
import { texts } from '~/locales/workspace'
import { VBtn, VTextField } from 'vuetify/components'
import { formatDay } from '~~/core/time/format'
import type { WorkspaceSettingsView } from '~~/core/workspace'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

/** Deleting the workspace, which is asked for twice, and keeping it after all. */

defineProps<{ workspace: WorkspaceSettingsView }>()
const emit = defineEmits<{ changed: [] }>()

const desk = useDesk()
const notice = useNotice()
const isAsked = ref(false)
const slug = ref('')
const password = ref('')
const { sending, errors, fault, submit } = useSubmission()
const path = '/api/desk/workspace/deletion'

const ask = () => submit(async () => {
  await $fetch(path, { method: 'POST', body: { slug: slug.value.trim(), password: password.value } })
  isAsked.value = false
  slug.value = password.value = ''
  notice.show(texts.asked)
  await desk.load()
  emit('changed')
})

const keep = () => submit(async () => {
  await $fetch(path, { method: 'DELETE' })
  notice.show(texts.kept)
  await desk.load()
  emit('changed')
})
</script>

<template>
  <section class="deletion" aria-labelledby="deletion">
    <h2 id="deletion">{{ texts.deletion }}</h2>
    <template v-if="workspace.deletion">
      <p>{{ texts.willBeDeleted(formatDay(workspace.deletion.at, desk.zone, desk.locale, desk.now), workspace.deletion.by) }}</p>
      <VBtn :loading="sending" @click="keep">{{ texts.keepWorkspace }}</VBtn>
    </template>
    <template v-else>
      <p class="quiet">{{ texts.deletionHint }}</p>
      <LinkButton class="broken" @click="isAsked = true">{{ texts.deleteEllipsis }}</LinkButton>
    </template>
    <AskDialog v-if="isAsked" v-model="isAsked" :title="texts.deleteTitle(workspace.name)" :width="480">
      <form id="delete-workspace" @submit.prevent="ask">
        <ul>
          <li v-for="line in texts.whatHappens" :key="line">{{ line }}</li>
        </ul>
        <VTextField
          v-model="slug" :label="texts.typeAddress(workspace.slug)" autocomplete="off" spellcheck="false" :error-messages="errors['slug'] ?? []"
          hide-details="auto"
        />
        <VTextField
          v-model="password" type="password" autocomplete="current-password" :label="texts.password" :error-messages="errors['password'] ?? []"
          hide-details="auto"
        />
        <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      </form>
      <template #actions>
        <VBtn type="submit" form="delete-workspace" color="error" :loading="sending" :disabled="slug.trim() !== workspace.slug || !password">{{ texts.askForDeletion }}</VBtn>
        <LinkButton @click="isAsked = false">{{ texts.keep }}</LinkButton>
      </template>
    </AskDialog>
  </section>
</template>

<style scoped>
.deletion {
  max-width: 560px;
  margin: 12px 0 60px;
  padding-top: 18px;
  border-top: 1px solid var(--line);
}

h2 {
  font-size: 17px;
}

.deletion > * + * {
  margin-top: 8px;
}

form {
  display: grid;
  gap: 12px;
}
</style>
