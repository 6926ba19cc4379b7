<script setup lang="ts">
import { texts } from '~/locales/client'
import { useSubmission } from '~/composables/submission'

/** For how many people a booking is, changed after booking. */

const props = defineProps<{ path: string, people: number, most: number }>()
const emit = defineEmits<{ changed: [], keep: [] }>()
const chosen = ref(props.people)
const { sending, errors, fault, submit } = useSubmission()
const form = useTemplateRef<HTMLFormElement>('form')
onMounted(() => form.value?.scrollIntoView({ behavior: 'smooth', block: 'center' }))

const save = () => submit(async () => {
  await $fetch(`${props.path}/people`, { method: 'POST', body: { people: chosen.value } })
  emit('changed')
})
</script>

<template>
  <form ref="form" class="people" @submit.prevent="save">
    <label for="people">{{ texts.howMany }}</label>
    <select id="people" v-model="chosen" :aria-describedby="errors['people'] ? 'people-fault' : undefined">
      <option v-for="count in most" :key="count" :value="count">{{ texts.people(count) }}</option>
    </select>
    <p v-if="errors['people'] || fault" id="people-fault" class="broken" role="alert">{{ errors['people'] ?? fault }}</p>
    <div class="actions">
      <button type="submit" class="press" :disabled="sending || chosen === people">{{ texts.saveNumber }}</button>
      <button type="button" class="word" @click="emit('keep')">{{ texts.leaveNumber }}</button>
    </div>
  </form>
</template>

<style src="./actions.css"></style>

<style scoped>
.people {
  display: grid;
  gap: 8px;
  justify-items: start;
  border-top: 1px solid var(--line);
  padding-top: 16px;
}

label {
  font-weight: 600;
}

select {
  font: inherit;
  padding: 9px 12px;
  border: 1px solid var(--line);
  color: var(--ink);
  border-radius: var(--corner);
  background: var(--surface);
}
</style>
