import type { Place } from '../event-type/settings'
import { allQuestions } from '../intake/question-sets'
import type { Facts } from './facts'
import type { Finding } from './finding'

/** Checks of what clients read and are asked. */

export const roomLink = /https?:\/\/[^\s)]*(?:room|meet|call|join|conference|\/j\/|video)[^\s)]*/i
const passcode = /\b(?:pass\s?code|access code|meeting (?:id|number)|password|pin)\b\W{0,3}(?:is\W{0,2})?[A-Za-z]*\d[\w-]*/i

/** Before a booking anybody can read this, without being known. */
export function secretInPublic({ settings }: Facts): Finding[] {
  const texts = [
    { where: 'description' as const, panel: 'name' as const, text: `${settings.name}\n${settings.summary}\n${settings.description}` },
    { where: 'place' as const, panel: 'place' as const, text: settings.places.map(place => place.label).join('\n') },
    {
      where: 'question' as const,
      panel: 'questions' as const,
      text: allQuestions(settings)
        .flatMap(question => [question.label, question.help ?? '', ...(question.options ?? []).map(option => option.label)])
        .join('\n'),
    },
  ]
  return texts.flatMap(({ where, panel, text }): Finding[] => {
    const found = roomLink.exec(text)?.[0] ?? passcode.exec(text)?.[0]
    return found === undefined ? [] : [{ code: 'secretInPublic', severity: 'risky', values: { found, where }, wayOut: { kind: 'open', panel } }]
  })
}

const byPhone = /\b(?:phone|call you|telephone)\b/i
const inPerson = /\b(?:studio|office|street|in person|come to|at our|visit us)\b/i
const onScreen = /\b(?:video|online|camera|screen)\b/i

function contradicts({ kind, label }: Place): boolean {
  switch (kind) {
    case 'video': return inPerson.test(label) || byPhone.test(label)
    case 'address': return onScreen.test(label) || byPhone.test(label)
    case 'phoneWeCall':
    case 'phoneYouCall': return onScreen.test(label) || inPerson.test(label)
    default: return false
  }
}

export function contradictingPlaces({ settings: { places } }: Facts): Finding[] {
  const wayOut = { kind: 'open', panel: 'place' } as const
  const own = places.filter(contradicts).map(({ kind, label }): Finding => ({
    code: 'contradictingPlace', severity: 'risky', values: { kind, label }, wayOut,
  }))
  const read = places.map(place => `${place.kind} ${place.label.toLowerCase()}`)
  const twice = places.find((_, index) => read.indexOf(read[index] ?? '') !== index)
  const isOpen = places.some(place => place.kind === 'agreed') && places.some(place => place.kind === 'clientSuggests')
  return [
    ...own,
    ...(twice ? [{ code: 'equalPlaces' as const, severity: 'risky' as const, values: { kind: twice.kind, label: twice.label }, wayOut }] : []),
    ...(isOpen ? [{ code: 'suggestedOrAgreed' as const, severity: 'look' as const, values: {}, wayOut }] : []),
  ]
}

/** One room for all sessions, with nobody leaving before the next arrive. */
export function fixedRoomBackToBack({ settings }: Facts): Finding[] {
  const fixed = settings.places.some(place => /https?:\/\//.test(`${place.label} ${place.detail}`))
    || (settings.room.link !== '' && settings.places.some(place => place.kind === 'video'))
  if (!fixed || settings.bufferBeforeMinutes + settings.bufferAfterMinutes > 0) return []
  if (!settings.durations.some(minutes => minutes % settings.startEveryMinutes === 0)) return []
  return [{ code: 'fixedRoomBackToBack', severity: 'risky', values: {}, wayOut: { kind: 'set', settings: { bufferAfterMinutes: 10 } } }]
}

const asksName = /^(?:what is |what’s |what's )?(?:your |full |first |last )*name\b/i
const asksEmail = /\be-?mail\b/i
const asksPhone = /\b(?:phone|mobile|telephone) (?:number)?/i

export function asksAgain({ settings }: Facts): Finding[] {
  const calls = settings.places.every(place => place.kind === 'phoneWeCall')
  return allQuestions(settings).flatMap((question): Finding[] => {
    const what = question.kind === 'email' || asksEmail.test(question.label) ? 'email'
      : question.kind === 'text' && asksName.test(question.label) ? 'name'
        : calls && (question.kind === 'phone' || asksPhone.test(question.label)) ? 'phone' : null
    return what === null ? [] : [{
      code: 'asksAgain', severity: 'look', values: { question: question.label, what }, wayOut: { kind: 'open', panel: 'questions' },
    }]
  })
}

/** Nothing would stand there. */
export function answerNotAsked({ settings, messages }: Facts): Finding[] {
  const asked = new Set(allQuestions(settings).map(question => question.key))
  return messages.flatMap(({ occasion, own, answers, address }) => answers.filter(key => !asked.has(key)).map((key): Finding => ({
    code: 'answerNotAsked', severity: 'risky', values: { occasion, own, key }, wayOut: { kind: 'go', to: address },
  })))
}

export function closedButLinked({ definition: { state }, linkedFrom }: Facts): Finding[] {
  const [first] = linkedFrom
  return state === 'open' || first === undefined ? [] : [{
    code: 'closedButLinked', severity: 'risky', values: { first, others: linkedFrom.length - 1, state },
    wayOut: { kind: 'open', panel: 'address' },
  }]
}
