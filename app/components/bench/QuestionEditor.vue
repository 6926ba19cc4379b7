<script setup lang="ts">
import { VCheckbox, VTextarea, VTextField } from 'vuetify/components'
import { answerTypes } from '~~/core/catalogue/event-type'
import { hasOptions, optionsOfLines, possibleConditions, type Question, questionKinds } from '~~/core/intake'

/** One question: its wording, the kind of its answer, and when it is asked. */

const props = defineProps<{
  question: Question
  index: number
  count: number
  /** The questions before it, on which it may depend. */
  before: readonly Question[]
  errors: Readonly<Record<string, string>>
}>()
const emit = defineEmits<{ change: [question: Question], move: [by: 1 | -1], remove: [] }>()
const number = computed(() => props.index + 1)
const id = useId()

/** Changes a part; what is given as undefined is taken away. */
function change(part: { [Name in keyof Question]?: Question[Name] | undefined }): void {
  emit(
    'change',
    Object.fromEntries(Object.entries({ ...props.question, ...part }).filter(([, value]) => value !== undefined)) as unknown as Question,
  )
}

const chosen = (event: Event) =>
  event.target instanceof HTMLSelectElement || event.target instanceof HTMLInputElement ? event.target.value : ''

function setKind(event: Event): void {
  const kind = questionKinds.find(candidate => candidate === chosen(event))
  if (kind) change({ kind, preset: undefined, options: hasOptions(kind) ? props.question.options ?? [] : undefined })
}

function setPreset(text: string): void {
  const { kind } = props.question
  const figure = Number(text)
  const preset = text === '' ? undefined
    : kind === 'yesNo' ? text === 'true'
      : kind === 'number' && Number.isFinite(figure) ? figure
        : kind === 'choices' ? [text] : text
  change({ preset })
}

const conditions = computed(() =>
  props.before.flatMap(question =>
    possibleConditions(question).map(equals => ({
      id: `${question.key} ${equals}`,
      showIf: { key: question.key, equals },
      label: `if ${typeof equals === 'boolean' ? (equals ? 'yes' : 'no') : (question.options?.find(option => option.value === equals)?.label ?? equals)} (${question.label || 'a question without label'})`,
    })),
  ),
)
</script>

<template>
  <div class="body">
    <div class="field">
      <label :for="`${id}-label`">Wording<span class="visually-hidden"> of question {{ number }}</span></label>
      <VTextField
        :id="`${id}-label`" :model-value="question.label" placeholder="What would you like to know?"
        :error-messages="errors['label'] ?? []" hide-details="auto" @update:model-value="change({ label: $event })"
      />
    </div>
    <label class="line">Answer type<span class="visually-hidden">, question {{ number }}</span>
      <select :value="question.kind" @change="setKind">
        <option v-for="kind in questionKinds" :key="kind" :value="kind">{{ answerTypes[kind] }}</option>
      </select>
    </label>
    <div v-if="hasOptions(question.kind)" class="field">
      <label :for="`${id}-options`">Options, one per line</label>
      <VTextarea
        :id="`${id}-options`" :model-value="(question.options ?? []).map(option => option.label).join('\n')" rows="3"
        auto-grow :error-messages="errors['options'] ?? []" hide-details="auto"
        @update:model-value="change({ options: optionsOfLines($event.split('\n'), question.options ?? []) })"
      />
    </div>
    <div class="field">
      <label :for="`${id}-help`">Help text</label>
      <VTextField
        :id="`${id}-help`" :model-value="question.help ?? ''" placeholder="if it needs one"
        :error-messages="errors['help'] ?? []" hide-details="auto"
        @update:model-value="change({ help: $event || undefined })"
      />
    </div>
    <label class="line">Default answer
      <select
        v-if="question.kind === 'yesNo' || hasOptions(question.kind)"
        :value="String(Array.isArray(question.preset) ? question.preset[0] : question.preset ?? '')"
        @change="setPreset(chosen($event))"
      >
        <option value="">nothing</option>
        <template v-if="question.kind === 'yesNo'"><option value="true">yes</option><option value="false">no</option></template>
        <option v-for="option in question.options ?? []" v-else :key="option.value" :value="option.value">{{ option.label }}</option>
      </select>
      <input v-else type="text" :value="String(question.preset ?? '')" placeholder="nothing" @input="setPreset(chosen($event))">
    </label>
    <p v-if="errors['preset']" class="broken" role="alert">{{ errors['preset'] }}</p>
    <label v-if="conditions.length > 0" class="line asked">Asked
      <select
        :value="question.showIf ? `${question.showIf.key} ${question.showIf.equals}` : ''"
        @change="change({ showIf: conditions.find(condition => condition.id === chosen($event))?.showIf })"
      >
        <option value="">always</option>
        <option v-for="condition in conditions" :key="condition.id" :value="condition.id">only {{ condition.label }}</option>
      </select>
    </label>
    <p v-if="errors['showIf']" class="broken" role="alert">{{ errors['showIf'] }} <LinkButton @click="change({ showIf: undefined })">Ask it always</LinkButton></p>
    <VCheckbox
      :model-value="question.required" label="Required" hide-details
      @update:model-value="change({ required: $event === true })"
    />
    <p class="entry-actions">
      <LinkButton :disabled="index === 0" :aria-label="`Move question ${number} up`"
        @click="emit('move', -1)"
      >Up</LinkButton>
      <LinkButton :disabled="index === count - 1" :aria-label="`Move question ${number} down`"
        @click="emit('move', 1)"
      >Down</LinkButton>
      <LinkButton :aria-label="`Remove question ${number}`" @click="emit('remove')">Remove</LinkButton>
    </p>
  </div>
</template>

<style scoped>
.body {
  display: grid;
  gap: 10px;
  padding: 6px 0 6px 32px;
}

.body select,
.body .field {
  margin: 0;
}

.line {
  display: grid;
  grid-template-columns: 8.5rem 1fr;
  align-items: baseline;
  gap: 8px;
  color: var(--quiet);
}

.line.asked {
  grid-template-columns: auto 1fr;
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
