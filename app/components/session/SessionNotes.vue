<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn, VCombobox, VTextarea } from 'vuetify/components'
import type { SessionView } from '~~/core/views/desk'
import { useSubmission } from '~/composables/submission'

/** What the team has written about a session for itself. */

const props = defineProps<{ session: SessionView }>()
const emit = defineEmits<{ changed: [] }>()
const isEditing = ref(false)
const notes = ref('')
const tags = ref<string[]>([])
const basedOn = ref(0)
const { sending, errors, fault, submit } = useSubmission()
const tagFaults = computed(() => Object.entries(errors.value).filter(([path]) => path.startsWith('tags')).map(([, text]) => text))
const isOvertaken = computed(() => isEditing.value && props.session.notesVersion > basedOn.value)

function edit(): void {
  notes.value = props.session.notes
  tags.value = [...props.session.tags]
  basedOn.value = props.session.notesVersion
  fault.value = ''
  isEditing.value = true
}

const save = () => submit(async () => {
  await $fetch(`/api/desk/sessions/${props.session.id}/notes`, {
    method: 'PUT', body: { notes: notes.value, tags: tags.value.map(tag => tag.trim()).filter(Boolean), basedOn: basedOn.value },
  })
  isEditing.value = false
  emit('changed')
})

/** What was typed goes over what somebody else has saved, once that has been read. */
function keepMine(): void {
  basedOn.value = props.session.notesVersion
  fault.value = ''
}
</script>

<template>
  <form v-if="isEditing" class="notes" @submit.prevent="save">
    <VTextarea
      v-model="notes" :label="texts.notes" rows="3" auto-grow maxlength="5000" autofocus :hint="texts.notesHint" persistent-hint
      :error-messages="errors['notes'] ?? []" hide-details="auto"
    />
    <VCombobox
      v-model="tags" :label="texts.tags" multiple chips closable-chips :hint="texts.tagsHint" persistent-hint
      :error-messages="tagFaults" hide-details="auto"
    />
    <div v-if="isOvertaken" class="overtaken" role="alert">
      <p>{{ texts.notesOvertaken }}</p>
      <p v-if="session.notes" dir="auto" class="theirs">{{ session.notes }}</p>
      <p v-if="session.tags.length > 0" class="quiet">{{ session.tags.join(', ') }}</p>
      <LinkButton @click="edit">{{ texts.useTheirs }}</LinkButton>
      <LinkButton @click="keepMine">{{ texts.keepMine }}</LinkButton>
    </div>
    <p v-else-if="fault" class="broken" role="alert">{{ fault }}</p>
    <div class="actions">
      <VBtn type="submit" :loading="sending" :disabled="isOvertaken">{{ texts.saveNotes }}</VBtn>
      <LinkButton @click="isEditing = false">{{ texts.close }}</LinkButton>
    </div>
  </form>
  <div v-else class="notes">
    <p v-if="session.notes" dir="auto" class="text">{{ session.notes }}</p>
    <p v-if="session.tags.length > 0" class="tags">
      <NuxtLink v-for="tag in session.tags" :key="tag" :to="{ path: '/desk/sessions', query: { tag } }" class="tag">{{ tag }}</NuxtLink>
    </p>
    <LinkButton v-if="session.mayChange" @click="edit">{{
      session.notes || session.tags.length > 0 ? texts.changeNotes : texts.addNotes
    }}</LinkButton>
  </div>
</template>

<style scoped>
.notes {
  display: grid;
  gap: 8px;
  justify-items: start;
}

form.notes {
  justify-items: stretch;
}

.text,
.theirs {
  white-space: pre-line;
  overflow-wrap: anywhere;
}

.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
}

.tag {
  padding: 1px 8px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  color: var(--ink);
  text-decoration: none;
}

.overtaken {
  padding: 8px 12px;
  border-left: 3px solid var(--brick);
  background: var(--brick-tint);
}

.actions {
  display: flex;
  align-items: center;
  gap: 16px;
}
</style>
