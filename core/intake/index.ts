import { parsePhoneNumberFromString } from 'libphonenumber-js/min'
import { z } from 'zod'
import { dateToDays, parseDate } from '../time/civil'
import { formatFullDate } from '../time/format'

/** Intake questions and the checking of answers: one definition for browser and server. */

export const questionKinds = ['text', 'paragraph', 'email', 'phone', 'choice', 'choices', 'yesNo', 'date', 'number'] as const
export type QuestionKind = (typeof questionKinds)[number]

/** What a question is answered with. */
export const kindWords: Readonly<Record<QuestionKind, string>> = {
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

const key = z.string().regex(/^[a-z][a-zA-Z0-9]{0,39}$/, 'A key is a short word of letters and figures')

export const questionSchema = z
  .strictObject({
    key,
    kind: z.enum(questionKinds),
    label: z.string().trim().min(1, 'Write the question').max(300, 'At most 300 characters'),
    help: z.string().trim().max(500, 'At most 500 characters').optional(),
    required: z.boolean(),
    options: z
      .array(
        z.strictObject({
          value: z.string().min(1).max(100),
          label: z.string().trim().min(1, 'Write the choice').max(200, 'At most 200 characters'),
        }),
      )
      .max(50, 'At most 50 choices')
      .optional(),
    showIf: z.strictObject({ key, equals: z.union([z.string(), z.boolean()]) }).optional(),
    /** The answer that stands there before the client gives another. */
    preset: z.union([z.string(), z.number(), z.boolean(), z.array(z.string())]).optional(),
  })
  .refine(question => !hasOptions(question.kind) || (question.options?.length ?? 0) >= 2, {
    path: ['options'],
    message: 'Give at least two choices',
  })
  .refine(
    ({ options = [] }) =>
      new Set(options.map(option => option.value)).size === options.length
        && new Set(options.map(option => option.label)).size === options.length,
    {
      path: ['options'],
      message: 'Two choices are the same',
    },
  )
export type Question = z.infer<typeof questionSchema>
export { optionsOfLines } from './options'

export const questionsSchema = z.array(questionSchema).max(50, 'At most 50 questions').superRefine((questions, context) => {
  const before = new Map<string, Question>()
  questions.forEach((question, index) => {
    const fault = (path: string, message: string) => context.addIssue({ code: 'custom', path: [index, path], message })
    if (before.has(question.key)) fault('key', 'This key is taken')
    const condition = question.showIf && before.get(question.showIf.key)
    if (question.showIf && !condition) fault('showIf', 'It can depend only on a question before it')
    else if (condition && question.showIf && !possibleConditions(condition).includes(question.showIf.equals))
      fault('showIf', 'Choose the answer it depends on')
    if (question.preset !== undefined) {
      const { errors } = checkAnswers([{ ...question, showIf: undefined }], { [question.key]: question.preset })
      if (errors[0]) fault('preset', errors[0].message)
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
}

export interface FieldError {
  path: string
  message: string
}

export function hasOptions(kind: QuestionKind): boolean {
  return kind === 'choice' || kind === 'choices'
}

/** The questions that are asked, given the answers so far; an answer to one that is not asked opens no other. */
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
  questions: readonly Question[], given: Readonly<Record<string, unknown>>,
): { answers: Answer[], errors: FieldError[] } {
  const answers: Answer[] = []
  const errors: FieldError[] = []
  const known = new Set(questions.map(question => question.key))
  for (const name of Object.keys(given)) {
    if (!known.has(name)) errors.push({ path: `answers.${name}`, message: 'There is no such question' })
  }
  for (const question of askedQuestions(questions, given)) {
    const value = given[question.key]
    if (isEmpty(value)) {
      if (question.required) errors.push({ path: `answers.${question.key}`, message: missingWords[question.kind] })
      continue
    }
    const checked = checks[question.kind](value, question)
    if (typeof checked === 'object' && 'fault' in checked) errors.push({ path: `answers.${question.key}`, message: checked.fault })
    else answers.push({ key: question.key, question: askedQuestion(question), value: checked })
  }
  return { answers, errors }
}

/** An international phone number in E.164 form, or null. */
export function phoneNumber(text: string): string | null {
  const parsed = parsePhoneNumberFromString(text)
  return parsed?.isPossible() ? parsed.number : null
}

export const phoneFault = 'Write the number with its country code, for instance +351 21 000 0000'
export const emailSchema = z.email('Write an address such as name@place.example').max(254, 'At most 254 characters')

type Check = (value: unknown, question: Question) => AnswerValue | { fault: string }

const shortText: Check = value =>
  typeof value !== 'string' ? { fault: 'Expected text' }
    : value.length > 500 ? { fault: 'At most 500 characters' }
      : value.trim().replace(/\s*[\r\n\u2028\u2029]+\s*/g, ' ')

const checks: Record<QuestionKind, Check> = {
  text: shortText,
  paragraph: value =>
    typeof value !== 'string' ? { fault: 'Expected text' }
      : value.length > 5000 ? { fault: 'At most 5,000 characters' }
        : value.trim().replace(/\r\n?/g, '\n'),
  email: (value) => {
    const checked = emailSchema.safeParse(value)
    return checked.success ? checked.data : { fault: checked.error.issues[0]?.message ?? 'Not an address' }
  },
  phone: value => (typeof value === 'string' ? phoneNumber(value) : null) ?? { fault: phoneFault },
  choice: (value, question) =>
    typeof value === 'string' && optionLabel(question, value) !== undefined ? value : { fault: 'Choose one of the answers' },
  choices: (value, question) =>
    Array.isArray(value) && value.every((item): item is string => typeof item === 'string' && optionLabel(question, item) !== undefined)
      ? [...new Set(value)]
      : { fault: 'Choose from the answers' },
  yesNo: value => (typeof value === 'boolean' ? value : { fault: 'Answer yes or no' }),
  date: value => (typeof value === 'string' && parseDate(value) !== null ? value : { fault: 'Expected a date' }),
  number: value => (typeof value === 'number' && Number.isFinite(value) ? value : { fault: 'Expected a number' }),
}

const missingWords: Record<QuestionKind, string> = {
  text: 'Please answer this',
  paragraph: 'Please answer this',
  email: 'Please give an address',
  phone: 'Please give a number',
  choice: 'Please choose one',
  choices: 'Please choose at least one',
  yesNo: 'Please answer yes or no',
  date: 'Please give a date',
  number: 'Please give a number',
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
  return { label: question.label, text: formatValue(question, value) }
}

function formatValue(question: AskedQuestion, value: AnswerValue): string {
  if (typeof value === 'boolean') return value ? 'Yes' : 'No'
  if (Array.isArray(value)) return value.map(item => optionLabel(question, item) ?? item).join(', ')
  if (question.kind === 'date') return formatFullDate(dateToDays(String(value)), 'en-GB')
  return question.kind === 'choice' ? optionLabel(question, String(value)) ?? String(value) : String(value)
}
