import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import * as common from '@zxcvbn-ts/language-common'
import * as english from '@zxcvbn-ts/language-en'
import type { Fault } from '../../core/validation'

/** Passwords that are easily guessed are refused, with the reason. */

let estimator: ZxcvbnFactory | null = null

/** Of 0 to 4; from 3 on a password withstands guessing without limits. */
const LEAST_SCORE = 3
/** The estimate of longer ones takes long and says no more. */
const MOST_ESTIMATED = 72
/** Shorter parts of an address may stand in a good password by chance. */
const LEAST_PART = 4

/** What is wrong with a password, or null. `about` is what others know of the member: address, name, business. */
export function passwordFault(password: string, about: { email: string, others: readonly string[] }): Fault | null {
  const parts = [about.email, ...about.email.split(/[@.+]/)].filter(part => part.length >= LEAST_PART)
  const lower = password.toLowerCase()
  if (parts.some(part => lower.includes(part.toLowerCase()))) return { code: 'passwordWithAddress', values: {} }
  const letters = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')
  if (about.others.map(letters).some(name => name.length >= LEAST_PART && letters(password).includes(name)))
    return { code: 'passwordWithName', values: {} }
  estimator ??= new ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary },
    graphs: common.adjacencyGraphs,
    translations: english.translations,
  })
  const known = [...parts, ...about.others.flatMap(text => [text, ...text.split(/\s+/)])].filter(Boolean)
  const { score, feedback } = estimator.check(password.slice(0, MOST_ESTIMATED), known)
  return score >= LEAST_SCORE ? null : { code: 'passwordEasyToGuess', values: { warning: feedback.warning ?? null } }
}
