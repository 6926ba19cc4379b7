import { expect, it } from 'vitest'
import { askedQuestions, type Question, questionsSchema } from '.'
import { changesOfSet, rekeyQuestions, withCurrentSets } from './question-sets'

const question = (key: string, more: Partial<Question> = {}): Question => ({ key, kind: 'yesNo', label: key, required: false, ...more })
const set = (id: string, questions: Question[]) => ({ id, name: id, questions })

it('questions under new keys go on depending on each other', () => {
  let count = 0
  const asked = rekeyQuestions([question('wet'), question('mould', { showIf: { key: 'wet', equals: true } })], () => `shared${count++}`)
  expect(questionsSchema.safeParse(asked).success).toBe(true)
  expect(asked.map(({ key }) => key)).toEqual(['shared0', 'shared1'])
  expect(askedQuestions(asked, { shared0: true })).toHaveLength(2)
  expect(askedQuestions(asked, { shared0: false })).toHaveLength(1)
})

it('an event type asks its sets as they are now, and no longer those that are gone', () => {
  const settings = { name: 'Talk', questions: [], questionSets: [set('b', [question('old')]), set('gone', [question('lost')])] }
  const sets = new Map([['a', set('a', [])], ['b', set('b', [question('new')])]])
  expect(withCurrentSets(settings, sets)).toEqual({ ...settings, questionSets: [sets.get('b')] })
})

it('says what a changed set means: asked anew, no longer, differently, in another order', () => {
  const before = [question('a'), question('b'), question('c')]
  const kept: Question = { required: false, label: 'a', kind: 'yesNo', key: 'a' }
  const change = changesOfSet(before, [question('c', { required: true }), kept, question('d')])
  expect([change.added, change.removed, change.changed].map(list => list.map(({ key }) => key))).toEqual([['d'], ['b'], ['c']])
  expect(change.reordered).toBe(true)
  expect(changesOfSet(before, before.slice(1))).toMatchObject({ added: [], changed: [], reordered: false })
})
