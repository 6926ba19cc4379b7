import { describePrice } from '../payment/price'
import { z } from 'zod'
import { describeWeek, formatWindow } from '../time/hours-text'
import { describeRule } from '../hours/rule'
import { dateToDays } from '../time/civil'
import { plural, formatCount, formatRepeatInterval, formatAlternatives, formatFullDate, formatList, formatDuration } from '../time/format'
import { formatDurations, placeWords } from '../catalogue/event-type'
import { allQuestions } from '../intake/question-sets'
import { panels } from './panels'
import { poolIdOf } from './groups'
import { describeReminders, PRESET_REMINDERS, reminderKey } from './reminders'
import type { Chair, Settings, StoredHorizon } from './settings'

/** The sentence that describes an event type; each phrase names the panel that edits it. */

export const phraseSchema = z.strictObject({ text: z.string(), panel: z.enum(panels).optional() })
export type Phrase = z.infer<typeof phraseSchema>

export function sentenceOf(settings: Settings, chairs: readonly Chair[], locale: string): Phrase[] {
  const phrases: Phrase[] = [
    { text: 'Clients book ' },
    { text: formatDurations(settings.durations), panel: 'duration' },
    { text: ' ' },
    { text: describePlaces(settings), panel: 'place' },
    { text: ' with ' },
    { text: describeChairs(chairs), panel: 'chairs' },
    { text: ', ' },
    { text: describeHours(settings, locale), panel: 'hours' },
    { text: ', ' },
    ...describeBookingWindow(settings, locale),
    { text: ', starting ' },
    { text: formatRepeatInterval(settings.startEveryMinutes), panel: 'startEvery' },
    ...describeBuffers(settings),
    ...describeExtras(settings, locale),
  ]
  const asked = allQuestions(settings).length
  if (asked > 0) phrases.push({ text: ', and answer ' }, { text: plural(asked, 'question'), panel: 'questions' })
  return [...phrases, { text: '.' }]
}

export function describeSettings(settings: Settings, chairs: readonly Chair[], locale: string): string {
  return sentenceOf(settings, chairs, locale).map(phrase => phrase.text).join('')
}

export function describePlaces(settings: Settings): string {
  const places = settings.places.map(place =>
    place.kind === 'video' ? 'on video' : place.kind === 'address' ? `at ${place.label || 'an address'}` : `by ${placeWords[place.kind]}`)
  return places.join(' or ').replace('by client suggests a place', 'where they suggest').replace('by to be agreed', 'at a place to be agreed')
}

export function describeChairs(chairs: readonly Chair[]): string {
  return formatList(chairs.map((chair) => {
    const [first] = chair.hosts
    if (!first) return 'nobody yet'
    if (chair.hosts.length === 1) return first.name.split(' ')[0] ?? first.name
    const among = `${formatCount(chair.hosts.length)} hosts${chair.groups.find(group => group.id === poolIdOf(chair)) ? ` of “${chair.groups[0]?.name}”` : ''}`
    const pool = `one of ${among}`
    return {
      fairShare: `${pool}, by fair share`,
      order: `${pool}, in order`,
      client: `the one of ${among} they choose`,
    }[chair.policy]
  }))
}

export function describeHours({ hours }: Settings, locale: string): string {
  if (hours.mode === 'hosts') return 'whenever their hours allow'
  const { weekly, recurring } = hours.plan
  const rules = recurring.map(window => `${describeRule(window.rrule)} ${formatWindow(window, locale)}`)
  const when = weekly.length === 0 && rules.length > 0 ? formatList(rules) : formatList([describeWeek(weekly, locale), ...rules])
  return hours.mode === 'narrow' ? when : `${when}, whatever the hosts’ own hours`
}

function describeBookingWindow(settings: Settings, locale: string): Phrase[] {
  const lead: Phrase = {
    text: settings.leadTimeMinutes === 0 ? 'up to the last moment' : `at least ${formatDuration(settings.leadTimeMinutes)}`,
    panel: 'leadTime',
  }
  const horizon: Phrase = { text: describeHorizon(settings.horizon, locale), panel: 'horizon' }
  return settings.leadTimeMinutes === 0 || settings.horizon.kind === 'dates'
    ? [
        lead,
        { text: ' and ' },
        horizon,
        ...(settings.horizon.kind === 'open' || settings.horizon.kind === 'dates' ? [] : [{ text: ' ahead' }]),
      ]
    : [lead, { text: ' and ' }, horizon, { text: settings.horizon.kind === 'open' ? '' : ' ahead' }]
}

export function describeHorizon(horizon: StoredHorizon, locale: string): string {
  const date = (text: string) => formatFullDate(dateToDays(text), locale)
  switch (horizon.kind) {
    case 'open':
      return 'as far ahead as they like'
    case 'rolling':
      return `at most ${plural(horizon.days, 'day')}`
    case 'rollingWorkingDays':
      return `at most ${plural(horizon.days, 'working day')}`
    case 'dates':
      return horizon.from && horizon.to
        ? `from ${date(horizon.from)} to ${date(horizon.to)}`
        : horizon.from
          ? `from ${date(horizon.from)} on`
          : horizon.to
            ? `until ${date(horizon.to)}`
            : 'on any date'
  }
}

function describeBuffers(settings: Settings): Phrase[] {
  const { bufferBeforeMinutes: before, bufferAfterMinutes: after } = settings
  if (before === 0 && after === 0) return []
  const text = before === after ? `${formatDuration(before)} before and after`
    : formatList([...(before ? [`${formatDuration(before)} before`] : []), ...(after ? [`${formatDuration(after)} after`] : [])])
  return [{ text: ', with ' }, { text, panel: 'buffers' }, { text: ' kept free' }]
}

/** "3 a day and 10 a week"; empty without a limit. */
function describeLimits(daily: number | null, weekly: number | null): string {
  return formatList([...(daily ? [`${daily} a day`] : []), ...(weekly ? [`${weekly} a week`] : [])])
}

/** What is not as usual in the rooms of an event type. */
function describeRoom({ places, room: { options } }: Settings): string[] {
  if (places.every(({ kind }) => kind !== 'video')) return []
  const { entry, passcode, muted, cameras, earlyMinutes } = options
  return [
    ...(entry === 'open' ? ['anyone with the link let in'] : []),
    ...(passcode ? [] : ['no passcode']),
    ...(muted ? ['muted on entry'] : []),
    ...(cameras.host && cameras.clients ? [] : [
      cameras.host ? 'clients’ cameras off at first' : cameras.clients ? 'the host’s camera off at first' : 'all cameras off at first',
    ]),
    ...(earlyMinutes > 0 ? [`clients let in ${formatDuration(earlyMinutes)} early`] : []),
  ]
}

const describeApproval = ({ approvalHours }: Settings) =>
  `each one approved by hand${approvalHours === null ? '' : ` within ${formatDuration(approvalHours * 60)}`}`

type Terms = Settings['clientTerms']

/** Whether clients may not move and cancel up to the start, as usual. */
const hasTerms = ({ moveUntilMinutes, cancelUntilMinutes }: Terms) => moveUntilMinutes !== 0 || cancelUntilMinutes !== 0

/** Until when clients may move and cancel by themselves. */
export function describeTerms({ moveUntilMinutes, cancelUntilMinutes }: Terms): string {
  const until = (minutes: number) => (minutes === 0 ? 'up to the start' : `up to ${formatDuration(minutes)} before`)
  if (moveUntilMinutes === cancelUntilMinutes)
    return moveUntilMinutes === null ? 'moved and cancelled by the team only' : `moved or cancelled by clients ${until(moveUntilMinutes)}`
  return formatList([
    moveUntilMinutes === null ? 'moved by the team only' : `moved by clients ${until(moveUntilMinutes)}`,
    cancelUntilMinutes === null ? 'cancelled by the team only' : `cancelled ${until(cancelUntilMinutes)}`,
  ])
}

const isPreset = (reminders: Settings['reminders']) =>
  reminders.map(reminderKey).sort().join() === PRESET_REMINDERS.map(reminderKey).sort().join()

function describeExtras(settings: Settings, locale: string): Phrase[] {
  const perHost = describeLimits(settings.dailyLimit, settings.weeklyLimit)
  const inTotal = describeLimits(settings.totalDailyLimit, settings.totalWeeklyLimit)
  const limits = [...(perHost ? [`${perHost} for each host`] : []), ...(inTotal ? [`${inTotal} in total`] : [])]
  const extras: Phrase[] = [
    ...(limits.length > 0 ? [{ text: `at most ${formatList(limits)}`, panel: 'limits' as const }] : []),
    ...(settings.holds.length > 0
      ? [{ text: `also over calendar entries called ${formatAlternatives(settings.holds.map(word => `“${word}”`))}`, panel: 'holds' as const }]
      : []),
    ...(settings.seats > 1 ? [{
      text: `${formatCount(settings.seats)} seats a session${settings.mostPeople > 1 ? ` and up to ${formatCount(settings.mostPeople)} people in a booking` : ''}`,
      panel: 'seats' as const,
    }] : []),
    ...(settings.price ? [{ text: `for ${describePrice(settings.price, locale)}`, panel: 'payment' as const }] : []),
    ...(settings.approval ? [{ text: describeApproval(settings), panel: 'approval' as const }] : []),
    ...(settings.guests ? [] : [{ text: 'without guests', panel: 'guests' as const }]),
    ...(hasTerms(settings.clientTerms) ? [{ text: describeTerms(settings.clientTerms), panel: 'clientTerms' as const }] : []),
    ...(isPreset(settings.reminders) ? [] : [{
      text: settings.reminders.length > 0 ? `with reminders ${describeReminders(settings.reminders, locale)}` : 'without reminders',
      panel: 'reminders' as const,
    }]),
    ...describeRoom(settings).map(text => ({ text, panel: 'place' as const })),
  ]
  return extras.flatMap(extra => [{ text: ', ' }, extra])
}
