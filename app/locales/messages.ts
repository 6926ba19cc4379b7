import { describeReminder } from '~~/core/event-type/reminders'
import { describeOwnMoment, type OwnMoment, type OwnOccasion, type OwnReader } from '~~/core/messages/own'
import type { Moment, Reader } from '~~/core/messages/timeline'
import type { Channel } from '~~/core/messages/occasions'
import type { Variation } from '~~/core/messages/wording'
import { formatList, plural } from '~~/core/time/format'
import type { WordingSource } from '~~/core/views/messages'

/** What the screen of messages says. */

const readers: Record<Reader, string> = {
  client: 'the client', guests: 'guests', newGuests: 'new guests', formerGuests: 'guests who no longer come',
  hosts: 'the host', newHosts: 'the new host', formerHosts: 'the former host', observers: 'observers', coordinators: 'coordinators',
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

export const texts = {
  title: 'Messages · Temporia',
  whatIsSent: (eventType: string | null) => (eventType === null ? 'What is sent' : `What is sent for ${eventType}`),
  messagesOf: 'Messages of',
  wholeWorkspace: 'All event types',
  ownOfWorkspace: (own: number) => (own === 0 ? 'All of them in the standard words.' : `${plural(own, 'message')} in your own words, the others in the standard ones.`),
  ownOfEventType: (own: number) => (own === 0 ? 'As for all event types.' : `As for all event types, but for ${own}.`),
  moment: (moment: Moment, locale: string): string => {
    switch (moment.kind) {
      case 'reminder': return capital(describeReminder(moment.reminder, locale))
      case 'paying': return 'While it is paid'
      case 'refunded': return 'When paid back'
      case 'requested': return 'When requested'
      case 'booked': return 'When booked'
      case 'link': return 'Its video link'
      case 'before': return 'Before it starts'
      case 'changed': return 'When it changes'
      case 'missed': return 'When missed'
      case 'asked': return 'When a client asks'
      case 'own': return capital(describeOwnMoment(moment.moment, locale)) + (moment.moment.kind === 'after' ? texts.onlyIf[moment.moment.if] : '')
    }
  },
  get: (who: readonly Reader[]) => `${capital(formatList(who.map(reader => readers[reader])))} ${who.length > 1 || /s( |$)/.test(readers[who[0] ?? 'client']) ? 'get' : 'gets'}`,
  to: (who: readonly Reader[], by: Channel) => `To ${formatList(who.map(reader => readers[reader]))}, ${texts.ways[by]}`,
  ways: { mail: 'by mail', phone: 'by phone text' } satisfies Record<Channel, string>,
  byPhone: 'by phone text',
  how: 'How',
  howChoices: { mail: 'By mail', phone: 'By phone text' } satisfies Record<Channel, string>,
  phoneHint: 'Only to those whose number is known, and not in the quiet hours set for the workspace.',
  cannotText: 'not sent',
  cannotTextHint: 'No service for phone texts is set up on this server, so this message is not sent.',
  length: (characters: number, parts: number) => `${plural(characters, 'character')}, sent as ${plural(parts, 'text')}`,
  onlyIf: { notMissed: '', attended: ', if they came', missed: ', if they missed it' },
  whenOwn: (moment: OwnMoment, locale: string) => (moment.kind === 'on' ? texts.occasions[moment.occasion].toLowerCase()
    : describeOwnMoment(moment, locale) + (moment.kind === 'after' ? texts.onlyIf[moment.if] : '')),
  changeOwn: 'Change or remove',
  addAMessage: 'Add a message',
  addTitle: (eventType: string | null) => `Add a message ${eventType === null ? 'for all event types' : `for ${eventType}`}`,
  changeTitle: (name: string) => `When “${name}” is sent`,
  ownName: 'Name',
  ownNameHint: 'For the team only, for instance “care advice”.',
  when: 'When',
  moments: { before: 'Some time before it starts', dayBefore: 'At a time of day, the day before', after: 'Some time after it ends', on: 'When something happens' },
  howLongBefore: 'How long before',
  howLongAfter: 'How long after',
  timeOfDay: 'At',
  whatHappens: 'What happens',
  occasions: {
    requested: 'When requested', booked: 'When booked or approved', moved: 'When moved', handedOver: 'When handed over', cancelled: 'When cancelled',
    declined: 'When declined', expired: 'When a request expires', missed: 'When marked as missed',
  } satisfies Record<OwnOccasion, string>,
  forWhom: 'For whom',
  ifs: { notMissed: 'All who are not marked as missed', attended: 'Only those marked as attended', missed: 'Only those marked as missed' },
  sentTo: 'To',
  ownReaders: { client: 'The client', guests: 'Guests', hosts: 'The host', observers: 'Observers', coordinators: 'Coordinators' } satisfies Record<OwnReader, string>,
  twoSidesHint: 'Clients and hosts read different words, so each side has a message of its own.',
  add: 'Add',
  saveChanges: 'Save changes',
  remove: 'Remove this message',
  removed: (name: string) => `Removed: ${name}. What was planned of it is not sent.`,
  close: 'Cancel',
  theirs: 'theirs',
  toReader: (who: readonly Reader[]) => formatList(who.map(reader => readers[reader])),
  linkOf: (name: string, who: readonly Reader[], isSecond: boolean) =>
    `${isSecond ? `Theirs: ${name}` : capital(name)}, to ${formatList(who.map(reader => readers[reader]))}`,
  enterAName: 'Enter a name',
  source: (source: WordingSource, isEventType: boolean) => ({ preset: '', workspace: isEventType ? '' : 'in your words', eventType: 'in its own words' })[source],
  broken: 'does not work any more',
  unsaved: 'not saved',
  remindersHint: 'When reminders go out is set on each event type.',
  changeReminders: 'Change when',
  subject: 'Subject',
  text: 'Text',
  insert: 'Insert',
  moreFields: 'More fields',
  fewerFields: 'Fewer fields',
  ifLink: 'if there is a link …',
  ifLinkTemplate: '{% if room.link %}Open {{ room.link }}.{% else %}The link follows in another mail.{% endif %}',
  eachAnswer: 'for each answer …',
  eachAnswerTemplate: '{% for answer in answerList %}{{ answer.label }}: {{ answer.text }}\n{% endfor %}',
  fields: {
    'details': 'When, where, link, number and passcode',
    'manage': 'The link by which the client moves or cancels',
    'client.firstName': 'Client’s first name', 'client.name': 'Client’s name', 'client.email': 'Client’s address', 'client.phone': 'Client’s number',
    'when.date': 'The day', 'when.time': 'The time it starts', 'when.end': 'The time it ends', 'when.zone': 'The reader’s zone', 'when.short': 'Day and time',
    'when.other': 'The time before', 'hosts': 'Who hosts it', 'room.link': 'The video link', 'room.number': 'The room’s number', 'room.passcode': 'The room’s passcode',
    'eventType.name': 'The event type', 'eventType.page': 'The page where it is booked', 'session.title': 'Event type and hosts', 'session.page': 'The session at the desk',
    'place': 'Where it takes place', 'placeNote': 'What to know about the place', 'workspace.name': 'Your name', 'actor': 'Who changed it', 'reason': 'The reason given',
    'booking.client': 'Who has booked', 'booking.people': 'How many come', 'booking.page': 'The client’s page', 'booking.heldUntil': 'Until when it is held', 'guests.added': 'New guests', 'guests.removed': 'Guests who no longer come',
    'payment.amount': 'What it costs', 'payment.state': 'Whether it is paid', 'payment.refunded': 'What was paid back', 'payment.until': 'Until when it is held',
    'remindersPage': 'Where reminders are ended', 'listPage': 'The list of bookings',
  } as Record<string, string>,
  answerField: 'The answer to this question',
  fieldIs: (name: string, value: string) => (value ? `${name}, here “${value}”` : `${name}; nothing here`),
  line: (line: number) => `Line ${line}:`,
  inSubject: 'Subject:',
  noDetails: 'Neither the details nor the link stand in this text: its readers have to look into their calendar for them.',
  save: 'Save',
  saved: (name: string) => `Saved: ${name}.`,
  discard: 'Discard changes',
  backTo: (from: 'preset' | 'workspace') => (from === 'preset' ? 'Back to the standard words' : 'Back to those for all event types'),
  wentBack: (name: string) => `Back as it was: ${name}.`,
  versions: 'Earlier versions',
  version: (when: string, by: string, isBack: boolean) => `${when}, ${by}${isBack ? ': went back' : ''}`,
  takeVersion: 'Use these words',
  conflict: (by: string) => `${by} saved this message after you had opened it. It says now:`,
  someone: 'Somebody else',
  useTheirs: 'Use theirs',
  keepMine: 'Keep mine',
  as: 'As',
  madeUp: 'a made-up client',
  anotherBooking: 'another booking',
  with: 'with',
  variations: { noLink: 'no link yet', longName: 'long name', otherZone: 'other zone', rightToLeft: 'right to left' } satisfies Record<Variation, string>,
  asText: 'As text',
  asMail: 'As mail',
  sendToMe: 'Send this to me',
  sent: (to: string) => `Sent to ${to}.`,
  previewFaulty: 'The standard words are shown until this is mended.',
  loading: 'Loading…',
  noSuchMessage: 'There is no such message.',
  only: 'Only owners and coordinators change messages.',
  leave: 'Leave without saving? What you typed on this screen is lost.',
} as const
