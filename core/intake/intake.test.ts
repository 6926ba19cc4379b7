import { formatInputFault } from '../catalogue/input'
import { inputFaults } from '../validation'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nasty } from '../../tests/support/spoil'
import {
  askedQuestions,
  checkAnswers,
  formatAnswer,
  optionsOfLines,
  phoneNumber,
  presetAnswers,
  type Question,
  type QuestionKind,
  questionKinds,
  questionSchema,
  questionsSchema,
} from '.'

const options = [{ value: 'p', label: 'Paper' }, { value: 'l', label: 'Leather' }]
const question = (kind: QuestionKind, more: Partial<Question> = {}): Question => ({
  key: 'q',
  kind,
  label: 'Which?',
  required: true,
  ...(kind.startsWith('choice') ? { options } : {}),
  ...more,
})

describe('answers', () => {
  it.each<[QuestionKind, unknown, unknown, string]>([
    ['text', '  one\nline ', 'one line', 'one line'],
    ['paragraph', 'two\r\nlines <script>alert(1)</script>', 'two\nlines <script>alert(1)</script>', 'two\nlines <script>alert(1)</script>'],
    ['email', 'a@b.example', 'a@b.example', 'a@b.example'],
    ['phone', '+351 21 000 0101', '+351210000101', '+351210000101'],
    ['choice', 'l', 'l', 'Leather'],
    ['choices', ['p', 'l', 'p'], ['p', 'l'], 'Paper, Leather'],
    ['yesNo', false, false, 'No'],
    ['date', '2027-03-08', '2027-03-08', '8 March 2027'],
    ['number', 2.5, 2.5, '2.5'],
  ])('of kind %s are saved as values with the wording of their question', (kind, given, value, text) => {
    const { answers, errors } = checkAnswers([question(kind)], { q: given })
    expect({ answers, errors }).toMatchObject({ answers: [{ key: 'q', question: { kind, label: 'Which?' }, value }], errors: [] })
    expect(answers.map(formatAnswer)).toEqual([{ label: 'Which?', text, kind }])
  })

  it.each<[QuestionKind, unknown]>([
    ['text', 7],
    ['text', 'x'.repeat(501)],
    ['paragraph', 'x'.repeat(5001)],
    ['email', 'a@b\nBcc: c@d.example'],
    ['phone', '21 000 0101'],
    ['choice', 'x'],
    ['choices', ['x']],
    ['choices', 'p'],
    ['yesNo', 'yes'],
    ['date', '2027-02-30'],
    ['number', '7'],
    ['text', ' '],
    ['choices', []],
  ])('of kind %s refuse %j at their field', (kind, given) => {
    const { errors } = checkAnswers([question(kind)], { q: given })
    expect(errors.map(error => [error.path, formatInputFault(error)])).toEqual([['answers.q', expect.stringMatching(/^[A-Z]/)]])
  })

  it('are dropped where the question was not asked, and refused where there is none', () => {
    const questions = [question('yesNo', { key: 'damp' }), question('text', { key: 'where', showIf: { key: 'damp', equals: true } })]
    expect(checkAnswers(questions, { damp: false, where: 'cellar' }).answers).toHaveLength(1)
    expect(checkAnswers(questions, { damp: true }).errors).toMatchObject([{ path: 'answers.where' }])
    expect(checkAnswers([], { other: 1 }).errors).toMatchObject([{ path: 'answers.other' }])
  })

  it('need at least two choices to choose from, and no two that are the same', () => {
    const refused = (...labels: string[]) =>
      questionSchema.safeParse({ ...question('choice'), options: labels.map((label, i) => ({ value: `v${i}`, label })) }).error?.issues[0]
        ?.message
    expect(refused('Paper', 'Leather')).toBeUndefined()
    expect(refused('Paper')).toBe('tooFew')
    const without = [{ ...question('choice'), options: undefined }]
    expect(inputFaults(questionsSchema.safeParse(without).error, without)).toEqual([
      { path: '0.options', code: 'tooFew', values: { least: 2 } },
    ])
    expect(refused('Paper', 'Leather', ' Paper')).toBe('equalOptions')
  })

  it('know an international number from a local one', () => {
    expect(phoneNumber('+44 1632 960104')).toBe('+441632960104')
    expect(phoneNumber('01632 960104')).toBeNull()
  })
})

describe('choices written one a line', () => {
  const before = ['Paper', 'Parchment', 'Leather'].map(label => ({ value: label.toLowerCase(), label }))
  const valuesOf = (...lines: string[]) => optionsOfLines(lines, before).map(option => `${option.label}=${option.value}`)

  it.each([
    ['one is taken out', ['Parchment', 'Leather'], ['Parchment=parchment', 'Leather=leather']],
    ['they change places', ['Leather', 'Paper', 'Parchment'], ['Leather=leather', 'Paper=paper', 'Parchment=parchment']],
    ['one is worded anew', ['Paper', 'Vellum', 'Leather'], ['Paper=paper', 'Vellum=parchment', 'Leather=leather']],
    [
      'one comes in between, after an empty line',
      ['Paper', '', 'Cloth', 'Parchment', 'Leather'],
      ['Paper=paper', 'Cloth=choice3', 'Parchment=parchment', 'Leather=leather'],
    ],
    [
      'one stands there twice',
      ['Paper', 'Paper', 'Parchment', 'Leather'],
      ['Paper=paper', 'Paper=choice2', 'Parchment=parchment', 'Leather=leather'],
    ],
  ])('keep what answers know them by when %s', (_what, lines, expected) => {
    expect(valuesOf(...lines)).toEqual(expected)
  })
})

describe('questions together', () => {
  const wet = { key: 'wet', kind: 'yesNo' as const, label: 'Is it wet?', required: false }
  const since = { key: 'since', kind: 'text' as const, label: 'Since when?', required: true, showIf: { key: 'wet', equals: true } }
  const rain = { key: 'rain', kind: 'yesNo' as const, label: 'Was it rain?', required: false, showIf: { key: 'wet', equals: false } }
  const roof = { key: 'roof', kind: 'text' as const, label: 'Which roof?', required: true, showIf: { key: 'rain', equals: true } }
  const faults = (questions: unknown[]) =>
    inputFaults(questionsSchema.safeParse(questions).error, questions).map(fault => `${fault.path}: ${formatInputFault(fault)}`)

  it('are asked as the answers go, and an answer to one that is not asked opens no other', () => {
    const asked = (answers: object) => askedQuestions([wet, since, rain, roof], { ...answers }).map(question => question.key)
    expect(asked({})).toEqual(['wet'])
    expect(asked({ wet: true, rain: true })).toEqual(['wet', 'since'])
    expect(asked({ wet: false, rain: true })).toEqual(['wet', 'rain', 'roof'])
    expect(
      checkAnswers([wet, since, rain, roof], { wet: true, since: 'May', rain: true, roof: 'The old one' }).answers.map(
        answer => answer.key,
      ),
    ).toEqual(['wet', 'since'])
  })

  it('depend only on what comes before and can be answered so', () => {
    expect(faults([wet, since])).toEqual([])
    expect(faults([since, wet])).toEqual(['0.showIf: A question can only depend on one before it'])
    expect(faults([wet, { ...since, showIf: { key: 'wet', equals: 'perhaps' } }])).toEqual(['1.showIf: Choose the answer that it depends on'])
    expect(faults([wet, wet])).toEqual(['1.key: This key is already used'])
    expect(faults(Array.from({ length: 51 }, (_, i) => ({ ...wet, key: `k${i}` })))).toEqual([': At most 50 entries'])
  })

  it('stand there with an answer only where it would do', () => {
    const number = { key: 'n', kind: 'number' as const, label: 'How many?', required: false }
    expect(faults([{ ...number, preset: 3 }, { ...wet, preset: false }])).toEqual([])
    expect(presetAnswers([{ ...number, preset: 3 }, wet])).toEqual({ n: 3 })
    expect(faults([{ ...number, preset: 'many' }])).toEqual(['0.preset: Enter a number'])
  })

  it('are checked whatever is answered, and what was taken is taken again', () => {
    const all = questionKinds.map(kind => question(kind, { key: kind, required: false }))
    const given = fc.record(
      Object.fromEntries(
        questionKinds.map(kind => [
          kind,
          fc.oneof(fc.constantFrom(...nasty), fc.constantFrom('p', ['p', 'l'], 'a@b.example', '+351 21 000 0101', '2027-03-08', 3)),
        ]),
      ),
      { requiredKeys: [] },
    )
    fc.assert(fc.property(given, (answers) => {
      const { answers: taken, errors } = checkAnswers(all, answers)
      for (const { path } of errors) expect(Object.keys(answers).map(key => `answers.${key}`)).toContain(path)
      expect(checkAnswers(all, Object.fromEntries(taken.map(row => [row.key, row.value])))).toEqual({ answers: taken, errors: [] })
    }), { numRuns: 2000 })
  })
})
