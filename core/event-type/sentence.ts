import type { Horizon } from '../openings'
import { sayHoursOfWeek, sayWindow } from '../time/hours-text'
import { sayRule } from '../hours/rule'
import { dateToDays } from '../time/civil'
import { plural, sayCount, sayEvery, sayFullDate, sayList, sayMinutes } from '../time/say'
import type { Chair, Settings } from './settings'
import { placeWords, sayDurations } from './words'

/** The sentence that describes an event type; each phrase names the panel that edits it. */

export const panels = [
  'name', 'duration', 'place', 'chairs', 'hours', 'leadTime', 'horizon', 'startEvery', 'buffers', 'limits', 'seats', 'approval', 'guests', 'questions',
  'afterwards', 'address', 'team', 'history',
] as const
export type Panel = (typeof panels)[number]

export interface Phrase {
  text: string
  panel?: Panel
}

export function sentenceOf(settings: Settings, chairs: readonly Chair[]): Phrase[] {
  const phrases: Phrase[] = [
    { text: 'Clients book ' },
    { text: sayDurations(settings.durations), panel: 'duration' },
    { text: ' ' },
    { text: sayPlaces(settings), panel: 'place' },
    { text: ' with ' },
    { text: sayChairs(chairs), panel: 'chairs' },
    { text: ', ' },
    { text: sayWhen(settings), panel: 'hours' },
    { text: ', ' },
    ...sayAhead(settings),
    { text: ', starting ' },
    { text: sayEvery(settings.startEveryMinutes), panel: 'startEvery' },
    ...sayBuffers(settings),
    ...sayExtras(settings),
  ]
  if (settings.questions.length > 0) {
    phrases.push({ text: ', and answer ' }, { text: plural(settings.questions.length, 'question'), panel: 'questions' })
  }
  return [...phrases, { text: '.' }]
}

export function saySettings(settings: Settings, chairs: readonly Chair[]): string {
  return sentenceOf(settings, chairs).map(phrase => phrase.text).join('')
}

export function sayPlaces(settings: Settings): string {
  const words = settings.places.map(place =>
    place.kind === 'video' ? 'on video' : place.kind === 'address' ? `at ${place.label || 'an address'}` : `by ${placeWords[place.kind]}`)
  return words.join(' or ').replace('by your suggestion', 'where they suggest').replace('by to be agreed', 'at a place to be agreed')
}

export function sayChairs(chairs: readonly Chair[]): string {
  return sayList(chairs.map((chair) => {
    const [first] = chair.hosts
    if (chair.hosts.length === 1 && first) return first.name.split(' ')[0] ?? first.name
    const pool = `one of ${sayCount(chair.hosts.length)} hosts`
    return { fairShare: `${pool}, by fair share`, order: `${pool}, in order`, client: `the one of ${sayCount(chair.hosts.length)} hosts they choose` }[chair.policy]
  }))
}

export function sayWhen({ hours }: Settings): string {
  if (hours.mode === 'hosts') return 'whenever their hours allow'
  const { weekly, recurring } = hours.plan
  const rules = recurring.map(window => `${sayRule(window.rrule)} ${sayWindow(window)}`)
  const when = weekly.length === 0 && rules.length > 0 ? sayList(rules) : sayList([sayHoursOfWeek(weekly), ...rules])
  return hours.mode === 'narrow' ? when : `${when}, whatever the hosts’ own hours`
}

function sayAhead(settings: Settings): Phrase[] {
  const lead: Phrase = { text: settings.leadTimeMinutes === 0 ? 'up to the last moment' : `at least ${sayMinutes(settings.leadTimeMinutes)}`, panel: 'leadTime' }
  const horizon: Phrase = { text: sayHorizon(settings.horizon), panel: 'horizon' }
  return settings.leadTimeMinutes === 0 || settings.horizon.kind === 'dates'
    ? [lead, { text: ' and ' }, horizon, ...(settings.horizon.kind === 'open' || settings.horizon.kind === 'dates' ? [] : [{ text: ' ahead' }])]
    : [lead, { text: ' and ' }, horizon, { text: settings.horizon.kind === 'open' ? '' : ' ahead' }]
}

export function sayHorizon(horizon: Horizon): string {
  switch (horizon.kind) {
    case 'open':
      return 'as far ahead as they like'
    case 'rolling':
      return `at most ${plural(horizon.days, 'day')}`
    case 'rollingWorkingDays':
      return `at most ${plural(horizon.days, 'working day')}`
    case 'dates':
      return horizon.from && horizon.to ? `from ${sayDateFully(horizon.from)} to ${sayDateFully(horizon.to)}`
        : horizon.from ? `from ${sayDateFully(horizon.from)} on` : horizon.to ? `until ${sayDateFully(horizon.to)}` : 'on any date'
  }
}

function sayDateFully(date: string): string {
  return sayFullDate(dateToDays(date), 'en-GB')
}

function sayBuffers(settings: Settings): Phrase[] {
  const { bufferBeforeMinutes: before, bufferAfterMinutes: after } = settings
  if (before === 0 && after === 0) return []
  const text = before === after ? `${sayMinutes(before)} before and after`
    : sayList([...(before ? [`${sayMinutes(before)} before`] : []), ...(after ? [`${sayMinutes(after)} after`] : [])])
  return [{ text: ', with ' }, { text, panel: 'buffers' }, { text: ' kept free' }]
}

function sayExtras(settings: Settings): Phrase[] {
  const limits = [
    ...(settings.dailyLimit ? [`${settings.dailyLimit} a day`] : []),
    ...(settings.weeklyLimit ? [`${settings.weeklyLimit} a week`] : []),
  ]
  const extras: Phrase[] = [
    ...(limits.length > 0 ? [{ text: `at most ${sayList(limits)} for each host`, panel: 'limits' as const }] : []),
    ...(settings.seats > 1 ? [{ text: `${sayCount(settings.seats)} seats a session`, panel: 'seats' as const }] : []),
    ...(settings.approval ? [{ text: 'each one approved by hand', panel: 'approval' as const }] : []),
    ...(settings.guests ? [] : [{ text: 'without guests', panel: 'guests' as const }]),
  ]
  return extras.flatMap(extra => [{ text: ', ' }, extra])
}
