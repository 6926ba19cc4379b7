import type { Place } from '../event-type/settings'
import { placeWords } from '../event-type/words'
import type { Facts } from './facts'
import type { Finding } from './finding'

/** Checks of what clients read and are asked. */

const roomLink = /https?:\/\/[^\s)]*(?:room|meet|call|join|conference|\/j\/|video)[^\s)]*/i
const passcode = /\b(?:pass\s?code|access code|meeting (?:id|number)|password|pin)\b\W{0,3}(?:is\W{0,2})?[A-Za-z]*\d[\w-]*/i

/** Before a booking anybody can read this, without being known. */
export function secretInPublic({ settings }: Facts): Finding[] {
  const texts = [
    { where: 'the description', panel: 'name' as const, text: `${settings.name}\n${settings.summary}\n${settings.description}` },
    { where: 'what clients read about the place', panel: 'place' as const, text: settings.places.map(place => place.label).join('\n') },
    {
      where: 'a question',
      panel: 'questions' as const,
      text: settings.questions
        .flatMap(question => [question.label, question.help ?? '', ...(question.options ?? []).map(option => option.label)])
        .join('\n'),
    },
  ]
  return texts.flatMap(({ where, panel, text }) => {
    const found = roomLink.exec(text)?.[0] ?? passcode.exec(text)?.[0]
    return found === undefined ? [] : [{
      code: 'secretInPublic', severity: 'risky' as const,
      words: `“${found.length > 60 ? `${found.slice(0, 57)}…` : found}” stands in ${where}, where strangers can read it and walk in.`,
      wayOut: { kind: 'open' as const, words: 'Take it out', panel },
    }]
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
  const change = { kind: 'open', words: 'Change the place', panel: 'place' } as const
  const own = places.filter(contradicts).map((place): Finding => ({
    code: 'contradictingPlaces',
    severity: 'risky',
    words: `The place is “${placeWords[place.kind]}”, but clients read “${place.label}”: the two contradict each other.`,
    wayOut: change,
  }))
  const words = places.map(place => `${place.kind} ${(place.label || placeWords[place.kind]).toLowerCase()}`)
  const twice = places.find((_, index) => words.indexOf(words[index] ?? '') !== index)
  const open = places.some(place => place.kind === 'agreed') && places.some(place => place.kind === 'clientSuggests')
  return [
    ...own,
    ...(twice
      ? [
          {
            code: 'contradictingPlaces',
            severity: 'risky' as const,
            words: `Clients choose between two places that read the same, “${twice.label || placeWords[twice.kind]}”.`,
            wayOut: change,
          },
        ]
      : []),
    ...(open
      ? [
          {
            code: 'contradictingPlaces',
            severity: 'look' as const,
            words:
              'Clients may suggest a place or leave it to be agreed: the two mean nearly the same, and you cannot tell which was meant.',
            wayOut: change,
          },
        ]
      : []),
  ]
}

/** One room for all sessions, with nobody leaving before the next arrive. */
export function fixedRoomBackToBack({ settings }: Facts): Finding[] {
  const fixed = settings.places.some(place => /https?:\/\//.test(`${place.label} ${place.detail}`))
  if (!fixed || settings.bufferBeforeMinutes + settings.bufferAfterMinutes > 0) return []
  if (!settings.durations.some(minutes => minutes % settings.startEveryMinutes === 0)) return []
  return [{
    code: 'fixedRoomBackToBack', severity: 'risky',
    words: 'All sessions share one room address and may follow each other at once: the next clients walk in on those before.',
    wayOut: { kind: 'set', words: 'Keep 10 minutes free after', settings: { bufferAfterMinutes: 10 } },
  }]
}

const asksName = /^(?:what is |what’s |what's )?(?:your |full |first |last )*name\b/i
const asksEmail = /\be-?mail\b/i
const asksPhone = /\b(?:phone|mobile|telephone) (?:number)?/i

export function asksAgain({ settings }: Facts): Finding[] {
  const calls = settings.places.every(place => place.kind === 'phoneWeCall')
  return settings.questions.flatMap((question) => {
    const what = question.kind === 'email' || asksEmail.test(question.label) ? 'e-mail address'
      : question.kind === 'text' && asksName.test(question.label) ? 'name'
        : calls && (question.kind === 'phone' || asksPhone.test(question.label)) ? 'phone number' : null
    return what === null ? [] : [{
      code: 'asksAgain', severity: 'look' as const, words: `“${question.label}” asks for the ${what}, which every client gives anyway.`,
      wayOut: { kind: 'open' as const, words: 'Change the questions', panel: 'questions' as const },
    }]
  })
}

export function closedButLinked({ definition, linkedFrom }: Facts): Finding[] {
  const [first] = linkedFrom
  return definition.state === 'open' || first === undefined
    ? []
    : [
        {
          code: 'closedButLinked',
          severity: 'risky',
          words: `“${first}”${linkedFrom.length > 1 ? ` and ${linkedFrom.length - 1} more` : ''} still ${linkedFrom.length > 1 ? 'lead' : 'leads'} here, but it is ${definition.state}: who follows the link finds nothing.`,
          wayOut: { kind: 'open', words: 'Open it', panel: 'address' },
        },
      ]
}
