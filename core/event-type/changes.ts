import { describePrice, describeRefund } from '../payment/price'
import { plural, formatRepeatInterval, formatList, formatDuration, formatZone } from '../time/format'
import type { Definition } from './definition'
import { formatDurations } from '../catalogue/event-type'
import { describeRoomOptions, wayWords } from '../catalogue/rooms'
import type { Panel } from './panels'
import { describeReminders } from './reminders'
import { describeChairs, describeHorizon, describePlaces, describeHours, describeTerms } from './sentence'
import type { Settings } from './settings'

/** What differs between two definitions of an event type, part by part and in words, and how two people's changes go together. */

interface Part {
  /** Its name in the definition or in its settings. */
  name: string
  label: string
  panel: Panel
  /** Whether clients notice. */
  forClients: boolean
  read: (definition: Definition) => unknown
  write: (onto: Definition, from: Definition) => Definition
  describe: (definition: Definition, locale: string) => string
}

/** A part of the settings by its name. */
function setting<Name extends keyof Settings>(
  name: Name,
  label: string,
  panel: Panel,
  describe: (settings: Settings, locale: string) => string,
  forClients = true,
): Part {
  return {
    name,
    label,
    panel,
    forClients,
    read: definition => definition.settings[name],
    write: (onto, from) => ({ ...onto, settings: { ...onto.settings, [name]: from.settings[name] } }),
    describe: (definition, locale) => describe(definition.settings, locale),
  }
}

function own<Name extends 'slug' | 'listed' | 'state' | 'chairs'>(
  name: Name,
  label: string,
  panel: Panel,
  describe: (definition: Definition, locale: string) => string,
): Part {
  return {
    name,
    label,
    panel,
    forClients: true,
    read: definition => definition[name],
    write: (onto, from) => ({ ...onto, [name]: from[name] }),
    describe,
  }
}

const or = (text: string, none: string) => text || none
const brief = (text: string) => (text === '' ? 'none' : text.length > 60 ? `“${text.slice(0, 57)}…”` : `“${text}”`)
function describeRoom({ room: { ways, link, options } }: Settings): string {
  return `${describeWays(ways, link)}; ${describeRoomOptions(options)}`
}

function describeWays(ways: Settings['room']['ways'], link: string): string {
  if (!ways) return 'as the workspace has it'
  return ways.map(way => (way === 'link' && link ? `${wayWords.link} (${link})` : wayWords[way])).join(', then ')
}

const limit = (most: number | null) => (most === null ? 'no limit' : `at most ${most}`)
const formatBuffer = (minutes: number) => (minutes === 0 ? 'nothing' : formatDuration(minutes))

const parts: readonly Part[] = [
  own('state', 'State', 'address', definition => definition.state),
  own('listed', 'On the workspace’s page', 'address', definition => (definition.listed ? 'listed' : 'unlisted')),
  own('slug', 'Short address', 'address', definition => definition.slug),
  setting('name', 'Name', 'name', settings => settings.name),
  setting('teamName', 'Name for the team', 'team', settings => or(settings.teamName, 'the same'), false),
  setting('summary', 'One line about it', 'name', settings => brief(settings.summary)),
  setting('description', 'Description', 'name', settings => brief(settings.description)),
  setting('colour', 'Colour', 'name', settings => settings.colour),
  setting('timeZone', 'Zone its days are counted in', 'hours', settings => formatZone(settings.timeZone)),
  setting('durations', 'Duration', 'duration', settings => formatDurations(settings.durations)),
  setting('places', 'Place', 'place', settings => describePlaces(settings)),
  setting('room', 'Video rooms', 'place', describeRoom),
  own('chairs', 'Hosts', 'chairs', definition => describeChairs(definition.chairs)),
  setting('hours', 'Hours', 'hours', describeHours),
  setting('leadTimeMinutes', 'How soon before', 'leadTime', settings =>
    settings.leadTimeMinutes === 0 ? 'up to the last moment' : `at least ${formatDuration(settings.leadTimeMinutes)}`,
  ),
  setting('horizon', 'How far ahead', 'horizon', (settings, locale) => describeHorizon(settings.horizon, locale)),
  setting('startEveryMinutes', 'Starts', 'startEvery', settings => formatRepeatInterval(settings.startEveryMinutes)),
  setting('bufferBeforeMinutes', 'Kept free before', 'buffers', settings => formatBuffer(settings.bufferBeforeMinutes)),
  setting('bufferAfterMinutes', 'Kept free after', 'buffers', settings => formatBuffer(settings.bufferAfterMinutes)),
  setting('dailyLimit', 'Sessions a day for each host', 'limits', settings => limit(settings.dailyLimit)),
  setting('weeklyLimit', 'Sessions a week for each host', 'limits', settings => limit(settings.weeklyLimit)),
  setting('totalDailyLimit', 'Sessions a day in total', 'limits', settings => limit(settings.totalDailyLimit)),
  setting('totalWeeklyLimit', 'Sessions a week in total', 'limits', settings => limit(settings.totalWeeklyLimit)),
  setting('holds', 'Calendar entries that do not count', 'holds', settings => or(formatList(settings.holds.map(word => `“${word}”`)), 'none')),
  setting('seats', 'Seats', 'seats', settings => plural(settings.seats, 'seat')),
  setting('mostPeople', 'People in a booking', 'seats', settings => (settings.mostPeople === 1 ? 'not asked' : `${settings.mostPeople} at most`)),
  setting('price', 'Price', 'payment', ({ price }, locale) => (price === null ? 'none' : `${describePrice(price, locale)}. ${describeRefund(price)}`)),
  setting('approval', 'Approval', 'approval', settings => (settings.approval ? 'each one by hand' : 'not needed')),
  setting('approvalHours', 'How long a request waits', 'approval', ({ approvalHours }) =>
    (approvalHours === null ? 'until the start' : formatDuration(approvalHours * 60))),
  setting('guests', 'Guests', 'guests', settings => (settings.guests ? 'allowed' : 'not allowed')),
  setting('clientTerms', 'Moving and cancelling', 'clientTerms', ({ clientTerms }) => describeTerms(clientTerms)),
  setting('reminders', 'Reminders', 'reminders', ({ reminders }) => or(describeReminders(reminders, 'en-GB'), 'none')),
  setting('questions', 'Questions', 'questions', settings =>
    or(formatList(settings.questions.map(question => `“${question.label}”`)), 'none'),
  ),
  setting('questionSets', 'Shared questions', 'questions', settings => or(formatList(settings.questionSets.map(set => set.name)), 'none')),
  setting('afterwards', 'What clients see afterwards', 'afterwards', ({ afterwards }) =>
    afterwards.address ? `they go on to ${afterwards.address}` : brief(afterwards.text),
  ),
  setting('calendarTitle', 'Title in calendars', 'afterwards', settings => brief(settings.calendarTitle)),
  setting('observers', 'Who else is notified', 'team', settings => or(formatList(settings.observers.map(observer => observer.name)), 'nobody'), false),
  setting('notes', 'Notes for the team', 'team', settings => brief(settings.notes), false),
  setting('tags', 'Tags', 'team', settings => or(formatList(settings.tags), 'none'), false),
]

/** The part that holds what stands at a path such as `questions.0.label`, which may leave out `settings`; null where none does. */
export function partAt(path: string): { label: string, panel: Panel } | null {
  const [first] = path.replace(/^settings\./, '').split('.')
  return parts.find(part => part.name === first) ?? null
}

export interface Change {
  label: string
  panel: Panel
  forClients: boolean
  before: string
  after: string
}

/** Every part that differs, in the order of the bench. Equal words mean that something inside the part differs. */
export function changesBetween(before: Definition, after: Definition, locale: string): Change[] {
  return parts.filter(part => differs(part, before, after)).map(part => ({
    label: part.label,
    panel: part.panel,
    forClients: part.forClients,
    before: part.describe(before, locale),
    after: part.describe(after, locale),
  }))
}

/** How many parts differ. */
export function countChanges(before: Definition, after: Definition): number {
  return parts.filter(part => differs(part, before, after)).length
}

export interface Merged {
  definition: Definition
  /** Parts that both changed, each in another way: mine stands in the definition. */
  contested: { label: string, mine: string, theirs: string }[]
}

/** My changes since `base` put onto what somebody else published since then. */
export function mergeChanges(base: Definition, mine: Definition, theirs: Definition, locale: string): Merged {
  let definition = theirs
  const contested: Merged['contested'] = []
  for (const part of parts) {
    if (!differs(part, base, mine)) continue
    definition = part.write(definition, mine)
    if (differs(part, base, theirs) && differs(part, mine, theirs))
      contested.push({ label: part.label, mine: part.describe(mine, locale), theirs: part.describe(theirs, locale) })
  }
  return { definition, contested }
}

function differs(part: Part, definition: Definition, other: Definition): boolean {
  return JSON.stringify(part.read(definition)) !== JSON.stringify(part.read(other))
}

/** A change as a sentence without its full stop. */
export function describeChange({ label, before, after }: Change): string {
  return before === after ? `${label}: changed in detail` : `${label}: ${before} → ${after}`
}
