<script setup lang="ts">
import { VCheckbox, VTextarea, VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'
import { hasOptions, possibleConditions, type Question, type QuestionKind, questionKinds } from '~~/core/intake'
import { useReorder } from '~/composables/reorder'

/** What clients are asked. One question at a time is open; keys stay as they are, so that answers stay with their question. */

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

const open = ref<string | null>(settings.value.questions[0]?.key ?? null)

function set(questions: Question[]): void {
  settings.value = { ...settings.value, questions }
}

/** Changes a question; what is given as undefined is taken away. */
function change(index: number, part: { [Name in keyof Question]?: Question[Name] | undefined }): void {
  set(settings.value.questions.map((question, i) => (i === index
    ? Object.fromEntries(Object.entries({ ...question, ...part }).filter(([, value]) => value !== undefined)) as unknown as Question : question)))
}

function setKind(index: number, event: Event): void {
  const kind = questionKinds.find(one => event.target instanceof HTMLSelectElement && one === event.target.value)
  const question = settings.value.questions[index]
  if (kind && question) change(index, { kind, preset: undefined, options: hasOptions(kind) ? question.options ?? [] : undefined })
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

function setPreset(index: number, question: Question, text: string): void {
  const number = Number(text)
  const preset = text === '' ? undefined
    : question.kind === 'yesNo' ? text === 'true'
      : question.kind === 'number' && Number.isFinite(number) ? number
        : question.kind === 'choices' ? [text] : text
  change(index, { preset })
}

/** Questions before this one that it may depend on. */
const before = (index: number) => settings.value.questions.slice(0, index).filter(question => possibleConditions(question).length > 0)

function conditionsOf(index: number): { id: string, words: string, showIf: NonNullable<Question['showIf']> }[] {
  return before(index).flatMap(question => possibleConditions(question).map(equals => ({
    id: `${question.key} ${equals}`, showIf: { key: question.key, equals },
    words: `${question.label || 'a question without words'} — ${typeof equals === 'boolean' ? (equals ? 'yes' : 'no') : question.options?.find(option => option.value === equals)?.label ?? equals}`,
  })))
}

function setCondition(index: number, event: Event): void {
  if (event.target instanceof HTMLSelectElement) change(index, { showIf: conditionsOf(index).find(one => one.id === (event.target as HTMLSelectElement).value)?.showIf })
}

function add(): void {
  const taken = new Set(settings.value.questions.map(question => question.key))
  let number = settings.value.questions.length + 1
  while (taken.has(`question${number}`)) number++
  open.value = `question${number}`
  set([...settings.value.questions, { key: open.value, kind: 'text', label: '', required: false }])
}

const { move, handle, row } = useReorder(() => settings.value.questions, set)
const remove = (index: number) => set(settings.value.questions.filter((_, i) => i !== index))
const faultsOf = (errors: Readonly<Record<string, string>>, index: number) => Object.keys(errors).some(path => path.startsWith(`questions.${index}.`))
</script>

<template>
  <div class="questions">
    <p class="quiet hint">Name and e-mail are always asked.</p>
    <p v-if="errors['questions']" class="broken" role="alert">{{ errors['questions'] }}</p>
    <ol>
      <li v-for="(question, index) in settings.questions" :key="question.key" v-bind="row(index)">
        <div class="head">
          <button type="button" class="handle" v-bind="handle(index)" :aria-label="`Question ${index + 1}, ${question.label || 'without words'}: drag, or move with the arrow keys`">⠿</button>
          <button type="button" class="title" :aria-expanded="open === question.key" @click="open = open === question.key ? null : question.key">
            <strong>{{ question.label || 'Without words yet' }}</strong>
            <span class="quiet">{{ kindWords[question.kind] }}{{ question.required ? ', needed' : '' }}{{ question.showIf ? ', sometimes' : '' }}</span>
          </button>
          <span v-if="open !== question.key && faultsOf(errors, index)" class="broken">does not fit yet</span>
        </div>
        <div v-if="open === question.key" class="body">
          <VTextField :model-value="question.label" :aria-label="`Wording of question ${index + 1}`" placeholder="What would you like to know?" :error-messages="errors[`questions.${index}.label`] ?? []" hide-details="auto" @update:model-value="change(index, { label: $event })" />
          <select :value="question.kind" :aria-label="`Kind of answer ${index + 1}`" @change="setKind(index, $event)">
            <option v-for="kind in questionKinds" :key="kind" :value="kind">{{ kindWords[kind] }}</option>
          </select>
          <template v-if="hasOptions(question.kind)">
            <VTextarea :model-value="(question.options ?? []).map(option => option.label).join('\n')" :aria-label="`Choices of question ${index + 1}, one a line`" placeholder="One choice a line" rows="3" auto-grow :error-messages="errors[`questions.${index}.options`] ?? []" hide-details="auto" @update:model-value="setOptions(index, $event)" />
          </template>
          <VTextField :model-value="question.help ?? ''" :aria-label="`Help under question ${index + 1}`" placeholder="A word of help, if it needs one" :error-messages="errors[`questions.${index}.help`] ?? []" hide-details="auto" @update:model-value="change(index, { help: $event || undefined })" />
          <label class="line">Stands there already
            <select v-if="question.kind === 'yesNo' || hasOptions(question.kind)" :value="String(Array.isArray(question.preset) ? question.preset[0] : question.preset ?? '')" @change="setPreset(index, question, ($event.target as HTMLSelectElement).value)">
              <option value="">nothing</option>
              <template v-if="question.kind === 'yesNo'"><option value="true">yes</option><option value="false">no</option></template>
              <option v-for="option in question.options ?? []" v-else :key="option.value" :value="option.value">{{ option.label }}</option>
            </select>
            <input v-else type="text" :value="String(question.preset ?? '')" placeholder="nothing" @input="setPreset(index, question, ($event.target as HTMLInputElement).value)">
          </label>
          <p v-if="errors[`questions.${index}.preset`]" class="broken" role="alert">{{ errors[`questions.${index}.preset`] }}</p>
          <label v-if="conditionsOf(index).length > 0" class="line">Asked
            <select :value="question.showIf ? `${question.showIf.key} ${question.showIf.equals}` : ''" @change="setCondition(index, $event)">
              <option value="">always</option>
              <option v-for="one in conditionsOf(index)" :key="one.id" :value="one.id">only if: {{ one.words }}</option>
            </select>
          </label>
          <p v-if="errors[`questions.${index}.showIf`]" class="broken" role="alert">{{ errors[`questions.${index}.showIf`] }} <button type="button" class="word" @click="change(index, { showIf: undefined })">Ask it always</button></p>
          <VCheckbox :model-value="question.required" label="An answer is needed" hide-details @update:model-value="change(index, { required: $event === true })" />
          <p class="entry-actions">
            <button type="button" class="word" :disabled="index === 0" :aria-label="`Move question ${index + 1} up`" @click="move(index, index - 1)">Up</button>
            <button type="button" class="word" :disabled="index === settings.questions.length - 1" :aria-label="`Move question ${index + 1} down`" @click="move(index, index + 1)">Down</button>
            <button type="button" class="word" :aria-label="`Remove question ${index + 1}`" @click="remove(index)">Remove</button>
          </p>
        </div>
      </li>
    </ol>
    <button type="button" class="word" @click="add">Ask another question</button>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 8px 0 12px;
  padding: 0;
}

li {
  border-top: 1px solid var(--line);
  padding: 6px 0;
}

li.over {
  border-top: 2px solid var(--marigold);
}

.head {
  display: flex;
  align-items: baseline;
  gap: 8px;
}

.handle {
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: grab;
  min-width: 24px;
  min-height: 24px;
  touch-action: none;
}

.title {
  flex: 1;
  border: 0;
  background: none;
  padding: 2px 0;
  text-align: left;
  cursor: pointer;
}

.title .quiet {
  display: block;
  font-size: 12.5px;
}

.body {
  display: grid;
  gap: 8px;
  padding: 6px 0 6px 32px;
}

.body select {
  margin: 0;
}

.line {
  display: grid;
  grid-template-columns: 8.5rem 1fr;
  align-items: baseline;
  gap: 8px;
  color: var(--quiet);
}

.line input {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  color: var(--ink);
  padding: 6px 8px;
  min-width: 0;
}

.line select {
  color: var(--ink);
  min-width: 0;
}
</style>
