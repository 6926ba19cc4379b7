<script setup lang="ts">
import { texts } from '~/locales/booking-form'
import { VCheckbox, VRadio, VRadioGroup, VTextarea, VTextField } from 'vuetify/components'
import { askedQuestions, type Question } from '~~/core/intake'

/** Its picker is large, and few questions ask for a date. */
const DateField = defineAsyncComponent(() => import('~/components/fields/DateField.vue'))

/** The fields of intake questions: on clients' pages, and beside the questions while they are written. */

const props = defineProps<{ questions: readonly Question[], locale: string, errors: Readonly<Record<string, string>> }>()
const answers = defineModel<Record<string, unknown>>({ required: true })

const asked = computed(() => askedQuestions(props.questions, answers.value))

function set(key: string, value: unknown): void {
  answers.value = { ...answers.value, [key]: value }
}

function setChoices(key: string, value: string, on: boolean | null): void {
  const others = chosen(key).filter(item => item !== value)
  set(key, on ? [...others, value] : others)
}

function chosen(key: string): string[] {
  const value = answers.value[key]
  return Array.isArray(value) ? value.filter((item): item is string => typeof item === 'string') : []
}

function text(key: string): string {
  const value = answers.value[key]
  return typeof value === 'string' || typeof value === 'number' ? String(value) : ''
}

/** What is no number stays as it was typed, for the check to refuse. */
function read(question: Question, value: string): void {
  const number = Number(value.replace(',', '.'))
  set(question.key, question.kind === 'number' && value.trim() !== '' && Number.isFinite(number) ? number : value)
}

const fault = (key: string) => props.errors[`answers.${key}`] ?? ''
const inputTypes: Record<string, string> = { email: 'email', phone: 'tel' }
</script>

<template>
  <template v-for="question in asked" :key="question.key">
    <fieldset v-if="question.kind === 'choice' || question.kind === 'yesNo'">
      <legend>{{ question.label }}<span v-if="!question.required" class="quiet">{{ texts.optionalAfterLabel }}</span></legend>
      <p v-if="question.help" class="quiet help">{{ question.help }}</p>
      <VRadioGroup
        :model-value="answers[question.key]" :error-messages="fault(question.key)"
        @update:model-value="set(question.key, $event)"
      >
        <template v-if="question.kind === 'yesNo'">
          <VRadio :label="texts.yes" :value="true" />
          <VRadio :label="texts.no" :value="false" />
        </template>
        <VRadio v-for="option in question.options ?? []" v-else :key="option.value" :label="option.label" :value="option.value" />
      </VRadioGroup>
    </fieldset>
    <fieldset v-else-if="question.kind === 'choices'">
      <legend>{{ question.label }}<span v-if="!question.required" class="quiet">{{ texts.optionalAfterLabel }}</span></legend>
      <p v-if="question.help" class="quiet help">{{ question.help }}</p>
      <VCheckbox
        v-for="(option, index) in question.options ?? []" :key="option.value" :label="option.label"
        :model-value="chosen(question.key).includes(option.value)"
        :error-messages="index === (question.options?.length ?? 0) - 1 ? fault(question.key) : []"
        @update:model-value="setChoices(question.key, option.value, $event)"
      />
    </fieldset>
    <template v-else>
      <label :for="`question-${question.key}`">{{ question.label }}<span v-if="!question.required" class="quiet">{{ texts.optionalAfterLabel }}</span></label>
      <p v-if="question.help" class="quiet help">{{ question.help }}</p>
      <VTextarea
        v-if="question.kind === 'paragraph'" :id="`question-${question.key}`" :model-value="text(question.key)" rows="3"
        auto-grow maxlength="5000"
        :error-messages="fault(question.key)" @update:model-value="read(question, $event)"
      />
      <DateField
        v-else-if="question.kind === 'date'" :id="`question-${question.key}`" clearable :locale="locale"
        :model-value="text(question.key)" :error-messages="fault(question.key)" @update:model-value="set(question.key, $event)"
      />
      <VTextField
        v-else :id="`question-${question.key}`" :type="inputTypes[question.kind] ?? 'text'"
        :inputmode="question.kind === 'number' ? 'decimal' : undefined" :model-value="text(question.key)"
        :error-messages="fault(question.key)" @update:model-value="read(question, $event)"
      />
    </template>
  </template>
</template>
