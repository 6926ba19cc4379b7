import { parsePhoneNumberFromString } from 'libphonenumber-js/min'
import { z } from 'zod'
import { dateToDays, parseDate } from '../time/civil'
import { formatFullDate } from '../time/format'
import { type Fault, fault, faultIssue, type InputCode, type InputFault, inputFaults } from '../validation'
import { hasOptions, type QuestionKind, questionKinds } from './kinds'

/** Intake questions and the checking of answers: one definition for browser and server. */

export { hasOptions, type QuestionKind, questionKinds } from './kinds'

const key = z.string().regex(/^[a-z][a-zA-Z0-9]{0,39}$/, fault('key'))

export const questionSchema = z
  .strictObject({
    key,
    kind: z.enum(questionKinds),
    label: z.string().trim().min(1).max(300),
    help: z.string().trim().max(500).optional(),
    required: z.boolean(),
    options: z
      .array(
        z.strictObject({
          value: z.string().min(1).max(100),
          label: z.string().trim().min(1).max(200),
        }),
      )
      .max(50)
      .optional(),
    showIf: z.strictObject({ key, equals: z.union([z.string(), z.boolean()]) }).optional(),
    /** The answer that stands there before the client gives another. */
    preset: z.union([z.string(), z.number(), z.boolean(), z.array(z.string())]).optional(),
  })
  .superRefine(({ kind, options = [] }, context) => {
    if (hasOptions(kind) && options.length < 2) context.addIssue(faultIssue(['options'], 'tooFew', { least: 2 }))
    const isDifferent = (part: 'value' | 'label') => new Set(options.map(option => option[part])).size === options.length
    if (!isDifferent('value') || !isDifferent('label')) context.addIssue(faultIssue(['options'], 'equalOptions', {}))
  })
export type Question = z.infer<typeof questionSchema>
export { optionsOfLines } from './options'

export const questionsSchema = z.array(questionSchema).max(50).superRefine((questions, context) => {
  const before = new Map<string, Question>()
  questions.forEach((question, index) => {
    const refuse = (path: string, code: InputCode) => context.addIssue(faultIssue([index, path], code, {}))
    if (before.has(question.key)) refuse('key', 'keyTaken')
    const condition = question.showIf && before.get(question.showIf.key)
    if (question.showIf && !condition) refuse('showIf', 'conditionOrder')
    else if (condition && question.showIf && !possibleConditions(condition).includes(question.showIf.equals))
      refuse('showIf', 'conditionAnswer')
    if (question.preset !== undefined) {
      const { errors } = checkAnswers([{ ...question, showIf: undefined }], { [question.key]: question.preset })
      if (errors[0]) context.addIssue(faultIssue([index, 'preset'], errors[0].code, errors[0].values))
    }
    before.set(question.key, question)
  })
})

/** The answers of a question that another may depend on. */
export function possibleConditions(question: Question): (string | boolean)[] {
  if (question.kind === 'yesNo') return [true, false]
  return question.kind === 'choice' ? question.options?.map(option => option.value) ?? [] : []
}

export type AnswerValue = string | number | boolean | string[]

/** A question in the wording in which it was answered. */
export type AskedQuestion = Pick<Question, 'kind' | 'label' | 'options'>

export interface Answer {
  key: string
  question: AskedQuestion
  value: AnswerValue
}

/** An answer as it is shown. */
export interface AnswerText {
  label: string
  text: string
  kind: QuestionKind
}

/** The questions that are asked, submitted the answers so far; an answer to one that is not asked opens no other. */
export function askedQuestions(questions: readonly Question[], answers: Readonly<Record<string, unknown>>): Question[] {
  const asked = new Map<string, Question>()
  for (const question of questions) {
    const { showIf } = question
    if (showIf === undefined || (asked.has(showIf.key) && answers[showIf.key] === showIf.equals)) asked.set(question.key, question)
  }
  return [...asked.values()]
}

/** The answers that stand there before the client gives any. */
export function presetAnswers(questions: readonly Question[]): Record<string, unknown> {
  return Object.fromEntries(questions.flatMap(({ key, preset }) => (preset === undefined ? [] : [[key, preset]])))
}

/**
 * Checks the answers of one booking. Answers to questions that were not asked are dropped; unknown keys are errors.
 * Error paths are `answers.<key>`.
 */
export function checkAnswers(
  questions: readonly Question[], submitted: Readonly<Record<string, unknown>>,
): { answers: Answer[], errors: InputFault[] } {
  const answers: Answer[] = []
  const errors: InputFault[] = []
  const known = new Set(questions.map(question => question.key))
  for (const name of Object.keys(submitted)) {
    if (!known.has(name)) errors.push({ path: `answers.${name}`, code: 'unknownQuestion', values: {} })
  }
  for (const question of askedQuestions(questions, submitted)) {
    const value = submitted[question.key]
    if (isEmpty(value)) {
      if (question.required) errors.push({ path: `answers.${question.key}`, code: 'unanswered', values: { kind: question.kind } })
      continue
    }
    const checked = checks[question.kind](value, question)
    if (typeof checked === 'object' && 'code' in checked) errors.push({ ...checked, path: `answers.${question.key}` })
    else answers.push({ key: question.key, question: askedQuestion(question), value: checked })
  }
  return { answers, errors }
}

/** An international phone number in E.164 form, or null. */
export function phoneNumber(text: string): string | null {
  const parsed = parsePhoneNumberFromString(text)
  return parsed?.isPossible() ? parsed.number : null
}

export const emailSchema = z.email().max(254)

/** A phone number, in E.164 form. */
export const phoneSchema = z.string().trim().max(40).refine(value => phoneNumber(value) !== null, fault('phone'))
  .transform(value => phoneNumber(value) ?? value)

type Check = (value: unknown, question: Question) => AnswerValue | Fault

const isText: Fault = { code: 'expected', values: { type: 'text' } }
const tooLong = (most: number): Fault => ({ code: 'tooLong', values: { most } })
const refuse = (code: InputCode): Fault => ({ code, values: {} })

const checks: Record<QuestionKind, Check> = {
  text: value =>
    typeof value !== 'string' ? isText
      : value.length > 500 ? tooLong(500)
        : value.trim().replace(/\s*[\r\n\u2028\u2029]+\s*/g, ' '),
  paragraph: value =>
    typeof value !== 'string' ? isText
      : value.length > 5000 ? tooLong(5000)
        : value.trim().replace(/\r\n?/g, '\n'),
  email: (value) => {
    const checked = emailSchema.safeParse(value)
    return checked.data ?? inputFaults(checked.error, value)[0] ?? refuse('email')
  },
  phone: value => (typeof value === 'string' ? phoneNumber(value) : null) ?? refuse('phone'),
  choice: (value, question) => (typeof value === 'string' && optionLabel(question, value) !== undefined ? value : refuse('notAnOption')),
  choices: (value, question) =>
    Array.isArray(value) && value.every((item): item is string => typeof item === 'string' && optionLabel(question, item) !== undefined)
      ? [...new Set(value)]
      : refuse('notAnOption'),
  yesNo: value => (typeof value === 'boolean' ? value : refuse('yesOrNo')),
  date: value => (typeof value === 'string' && parseDate(value) !== null ? value : refuse('date')),
  number: value =>
    typeof value === 'number' && Number.isFinite(value) ? value : { code: 'expected', values: { type: 'number' } },
}

function isEmpty(value: unknown): boolean {
  return value === undefined || value === null
    || (typeof value === 'string' && value.trim() === '')
    || (Array.isArray(value) && value.length === 0)
}

function askedQuestion({ kind, label, options }: Question): AskedQuestion {
  return { kind, label, ...(options && hasOptions(kind) ? { options } : {}) }
}

function optionLabel(question: AskedQuestion, value: string): string | undefined {
  return question.options?.find(option => option.value === value)?.label
}

/** An answer under the wording of its question: option labels, yes or no, a date in full. */
export function formatAnswer({ question, value }: Pick<Answer, 'question' | 'value'>): AnswerText {
  return { label: question.label, text: formatValue(question, value), kind: question.kind }
}

function formatValue(question: AskedQuestion, value: AnswerValue): string {
  if (typeof value === 'boolean') return value ? 'Yes' : 'No'
  if (Array.isArray(value)) return value.map(item => optionLabel(question, item) ?? item).join(', ')
  if (question.kind === 'date') return formatFullDate(dateToDays(String(value)), 'en-GB')
  return question.kind === 'choice' ? optionLabel(question, String(value)) ?? String(value) : String(value)
}
