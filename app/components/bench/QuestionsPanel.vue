<script setup lang="ts">
import { VCheckbox, VTextarea, VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'
import { hasOptions, type Question, type QuestionKind, questionKinds } from '~~/core/intake'

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

const kindWords: Record<QuestionKind, string> = {
  text: 'one line of text',
  paragraph: 'several lines of text',
  email: 'an e-mail address',
  phone: 'a phone number',
  choice: 'one of several',
  choices: 'several of several',
  yesNo: 'yes or no',
  date: 'a date',
  number: 'a number',
}

function set(questions: Question[]): void {
  settings.value = { ...settings.value, questions }
}

function change(index: number, part: Partial<Question>): void {
  set(settings.value.questions.map((question, i) => (i === index ? { ...question, ...part } : question)))
}

function setKind(index: number, event: Event): void {
  const kind = questionKinds.find(one => event.target instanceof HTMLSelectElement && one === event.target.value)
  const question = settings.value.questions[index]
  if (!kind || !question) return
  const { options, ...others } = question
  set(settings.value.questions.map((one, i) => (i === index ? { ...others, kind, ...(hasOptions(kind) ? { options: options ?? [] } : {}) } : one)))
}

/** One choice a line. A choice that keeps its line keeps its value, so that answers already given still fit. */
function setOptions(index: number, text: string): void {
  const before = settings.value.questions[index]?.options ?? []
  const values = new Set<string>()
  change(index, {
    options: text.split('\n').map((label, line) => {
      let value = before[line]?.value ?? `choice${line + 1}`
      while (values.has(value)) value += 'x'
      values.add(value)
      return { value, label }
    }).filter(option => option.label.trim() !== ''),
  })
}

function add(): void {
  const taken = new Set(settings.value.questions.map(question => question.key))
  let number = settings.value.questions.length + 1
  while (taken.has(`question${number}`)) number++
  set([...settings.value.questions, { key: `question${number}`, kind: 'text', label: '', required: false }])
}

function move(index: number, by: number): void {
  const questions = [...settings.value.questions]
  const [moved] = questions.splice(index, 1)
  if (moved) questions.splice(index + by, 0, moved)
  set(questions)
}

const remove = (index: number) => set(settings.value.questions.filter((_, i) => i !== index))
</script>

<template>
  <div>
    <p class="quiet">Name and e-mail are always asked.</p>
    <fieldset v-for="(question, index) in settings.questions" :key="question.key" class="entry">
      <legend>Question {{ index + 1 }}</legend>
      <VTextField :model-value="question.label" :aria-label="`Wording of question ${index + 1}`" placeholder="What would you like to know?" :error-messages="errors[`questions.${index}.label`] ?? []" hide-details="auto" @update:model-value="change(index, { label: $event })" />
      <select :value="question.kind" :aria-label="`Kind of answer ${index + 1}`" @change="setKind(index, $event)">
        <option v-for="kind in questionKinds" :key="kind" :value="kind">{{ kindWords[kind] }}</option>
      </select>
      <div v-if="hasOptions(question.kind)" class="field">
        <VTextarea :model-value="(question.options ?? []).map(option => option.label).join('\n')" :aria-label="`Choices of question ${index + 1}, one a line`" rows="3" auto-grow :error-messages="errors[`questions.${index}.options`] ?? []" hide-details="auto" @update:model-value="setOptions(index, $event)" />
        <p class="quiet hint">One choice a line.</p>
      </div>
      <VCheckbox :model-value="question.required" label="An answer is needed" hide-details @update:model-value="change(index, { required: $event === true })" />
      <p v-if="errors[`questions.${index}.showIf`]" class="broken">{{ errors[`questions.${index}.showIf`] }}</p>
      <p class="entry-actions">
        <button type="button" class="word" :disabled="index === 0" :aria-label="`Move question ${index + 1} up`" @click="move(index, -1)">Up</button>
        <button type="button" class="word" :disabled="index === settings.questions.length - 1" :aria-label="`Move question ${index + 1} down`" @click="move(index, 1)">Down</button>
        <button type="button" class="word" :aria-label="`Remove question ${index + 1}`" @click="remove(index)">Remove</button>
      </p>
    </fieldset>
    <button type="button" class="word" @click="add">Ask another question</button>
  </div>
</template>
