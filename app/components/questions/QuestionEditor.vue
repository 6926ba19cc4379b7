<script setup lang="ts">
import { texts } from '~/locales/questions'
import { VCheckbox, VSelect, VTextarea, VTextField } from 'vuetify/components'
import { answerTypes } from '~~/core/catalogue/event-type'
import { hasOptions, optionsOfLines, possibleConditions, type Question, type QuestionKind, questionKinds } from '~~/core/intake'

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

const kinds = questionKinds.map(kind => ({ value: kind, title: answerTypes[kind] }))
const setKind = (kind: QuestionKind) =>
  change({ kind, preset: undefined, options: hasOptions(kind) ? props.question.options ?? [] : undefined })

/** What can be answered beforehand; the first is nothing. */
const presets = computed(() => [
  { value: '', title: 'none' },
  ...(props.question.kind === 'yesNo'
    ? [{ value: 'true', title: 'yes' }, { value: 'false', title: 'no' }]
    : (props.question.options ?? []).map(option => ({ value: option.value, title: option.label }))),
])

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
      label: texts.onlyIf(typeof equals === 'boolean' ? (equals ? 'yes' : 'no') : (question.options?.find(option => option.value === equals)?.label ?? equals), question.label || texts.aQuestionWithoutALabel),
    })),
  ),
)
</script>

<template>
  <div class="body">
    <div class="field">
      <label :for="`${id}-label`">{{ texts.wording }}<span class="visually-hidden">{{ texts.ofQuestion(number) }}</span></label>
      <VTextField
        :id="`${id}-label`" :model-value="question.label" :placeholder="texts.whatWouldYouLikeToKnow"
        :error-messages="errors['label'] ?? []" hide-details="auto" @update:model-value="change({ label: $event })"
      />
    </div>
    <div class="field">
      <label :for="`${id}-kind`">{{ texts.answerType }}<span class="visually-hidden">{{ texts.ofQuestion(number) }}</span></label>
      <VSelect :id="`${id}-kind`" :model-value="question.kind" :items="kinds" hide-details @update:model-value="setKind" />
    </div>
    <div v-if="hasOptions(question.kind)" class="field">
      <label :for="`${id}-options`">{{ texts.optionsOnePerLine }}</label>
      <VTextarea
        :id="`${id}-options`" :model-value="(question.options ?? []).map(option => option.label).join('\n')" rows="3"
        auto-grow :error-messages="errors['options'] ?? []" hide-details="auto"
        @update:model-value="change({ options: optionsOfLines($event.split('\n'), question.options ?? []) })"
      />
    </div>
    <div class="field">
      <label :for="`${id}-help`">{{ texts.helpText }}</label>
      <VTextField
        :id="`${id}-help`" :model-value="question.help ?? ''" :placeholder="texts.optional"
        :error-messages="errors['help'] ?? []" hide-details="auto"
        @update:model-value="change({ help: $event || undefined })"
      />
    </div>
    <div class="field">
      <label :for="`${id}-default`">{{ texts.defaultAnswer }}</label>
      <VSelect
        v-if="question.kind === 'yesNo' || hasOptions(question.kind)" :id="`${id}-default`" :items="presets" hide-details="auto"
        :model-value="String(Array.isArray(question.preset) ? question.preset[0] : question.preset ?? '')"
        :error-messages="errors['preset'] ?? []" @update:model-value="setPreset"
      />
      <VTextField
        v-else :id="`${id}-default`" :placeholder="texts.optional" :model-value="String(question.preset ?? '')" hide-details="auto"
        :error-messages="errors['preset'] ?? []" @update:model-value="setPreset"
      />
    </div>
    <div v-if="conditions.length > 0" class="field">
      <label :for="`${id}-asked`">{{ texts.whenItIsAsked }}</label>
      <VSelect
        :id="`${id}-asked`" hide-details :model-value="question.showIf ? `${question.showIf.key} ${question.showIf.equals}` : ''"
        :items="[{ id: '', label: 'always' }, ...conditions]" item-value="id" item-title="label"
        @update:model-value="change({ showIf: conditions.find(condition => condition.id === $event)?.showIf })"
      />
    </div>
    <p v-if="errors['showIf']" class="broken" role="alert">{{ errors['showIf'] }} <LinkButton @click="change({ showIf: undefined })">{{ texts.alwaysAskIt }}</LinkButton></p>
    <VCheckbox
      :model-value="question.required" :label="texts.required" hide-details
      @update:model-value="change({ required: $event === true })"
    />
    <p class="entry-actions">
      <LinkButton :disabled="index === 0" :aria-label="texts.moveQuestionUp(number)"
        @click="emit('move', -1)"
      >{{ texts.up }}</LinkButton>
      <LinkButton :disabled="index === count - 1" :aria-label="texts.moveQuestionDown(number)"
        @click="emit('move', 1)"
      >{{ texts.down }}</LinkButton>
      <LinkButton :aria-label="texts.removeQuestion(number)" @click="emit('remove')">{{ texts.remove }}</LinkButton>
    </p>
  </div>
</template>

<style scoped>
.body {
  display: grid;
  gap: 10px;
  padding: 6px 0 6px 32px;
}

.body .field {
  margin: 0;
}
</style>
