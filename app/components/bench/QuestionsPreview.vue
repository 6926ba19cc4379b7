<script setup lang="ts">
import { formatInputFault } from '~~/core/catalogue/input'
import { VBtn, VTextField } from 'vuetify/components'
import { checkAnswers, presetAnswers, type Question } from '~~/core/intake'
import QuestionFields from '~/components/client/QuestionFields.vue'

/** The form as clients meet it, to be tried: with the same fields and the same checks. */

const props = defineProps<{ questions: readonly Question[] }>()

const answers = ref<Record<string, unknown>>(presetAnswers(props.questions))
const errors = ref<Record<string, string>>({})
const passed = ref(false)

watch(() => props.questions, (questions) => {
  answers.value = { ...presetAnswers(questions), ...answers.value }
  if (Object.keys(errors.value).length > 0) check()
})

function check(): void {
  const known = new Set(props.questions.map(question => question.key))
  const given = Object.fromEntries(
    Object.entries(answers.value).filter(([key, value]) => known.has(key) && value !== undefined && value !== ''),
  )
  errors.value = Object.fromEntries(checkAnswers(props.questions, given).errors.map(error => [error.path, formatInputFault(error)]))
  passed.value = Object.keys(errors.value).length === 0
}
</script>

<template>
  <section class="preview" aria-labelledby="preview">
    <h2 id="preview">The form as clients meet it</h2>
    <p class="quiet">Try it: nothing is sent.</p>
    <form class="booking-form" novalidate @submit.prevent="check">
      <label for="preview-name">Your name</label>
      <VTextField id="preview-name" hide-details="auto" />
      <label for="preview-email">E-mail</label>
      <VTextField id="preview-email" hide-details="auto" />
      <QuestionFields v-model="answers" :questions="questions" :errors="errors" />
      <p class="do"><VBtn type="submit">Check the answers</VBtn> <span v-if="passed" role="status">These answers are valid.</span></p>
    </form>
  </section>
</template>

<style src="../client/booking-form.css"></style>

<style scoped>
.preview h2 {
  font-size: 17px;
}

.booking-form {
  max-width: 420px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 16px 20px;
  margin-top: 12px;
}

.do {
  display: flex;
  align-items: center;
  gap: 14px;
}
</style>
