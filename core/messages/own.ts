import { z } from 'zod'
import type { ChangeKind } from '../booking/changes'
import type { BookingState } from '../booking/states'
import { describeReminder, MOST_MINUTES, reminderSchema } from '../event-type/reminders'
import { formatDuration } from '../time/format'
import { faultIssue, noRepeats } from '../validation'
import { type Audience, channels } from './occasions'
import { phonePresets, presets, type Wording } from './presets'

/** Messages that a workspace adds to those that everybody has: how to prepare, a word of thanks, what to do after a missed session. */

/** Occasions that one can be added to: the changes that are one, and the booking's states in which the message is still true. */
export const ownOccasions = {
  requested: { changes: ['requested', 'paidRequest'], states: ['awaitingApproval'] },
  booked: { changes: ['booked', 'approved', 'paid'], states: ['confirmed'] },
  moved: { changes: ['moved', 'joined'], states: ['confirmed'] },
  handedOver: { changes: ['handedOver'], states: ['confirmed'] },
  cancelled: { changes: ['cancelled'], states: ['cancelled'] },
  declined: { changes: ['declined'], states: ['declined'] },
  expired: { changes: ['expired'], states: ['expired'] },
  missed: { changes: ['missed'], states: ['missed'] },
} as const satisfies Record<string, { changes: readonly ChangeKind[], states: readonly BookingState[] }>
export type OwnOccasion = keyof typeof ownOccasions
const ownOccasionNames = Object.keys(ownOccasions) as [OwnOccasion, ...OwnOccasion[]]

export const ownMomentSchema = z.discriminatedUnion('kind', [
  // Before a session as reminders are; times of day are in the client's zone.
  ...reminderSchema.options,
  /** After the end; `if`: whom it is for, by what the host has marked. */
  z.strictObject({ kind: z.literal('after'), minutes: z.int().min(0).max(MOST_MINUTES), if: z.enum(['notMissed', 'attended', 'missed']) }),
  z.strictObject({ kind: z.literal('on'), occasion: z.enum(ownOccasionNames) }),
])
export type OwnMoment = z.infer<typeof ownMomentSchema>

/** States of bookings that a message after the session is for. */
export const statesAfter = {
  notMissed: ['confirmed', 'attended'], attended: ['attended'], missed: ['missed'],
} as const satisfies Record<string, readonly BookingState[]>

export const ownReaders = ['client', 'guests', 'hosts', 'observers', 'coordinators'] as const
export type OwnReader = (typeof ownReaders)[number]

export const ownMessageSchema = z.strictObject({
  /** What the team calls it. */
  name: z.string().trim().min(1).max(80),
  moment: ownMomentSchema,
  by: z.enum(channels).default('mail'),
  to: z.array(z.enum(ownReaders)).min(1).superRefine(noRepeats()),
}).superRefine(({ by, to }, context) => {
  if (by === 'phone' && to.includes('guests')) context.addIssue(faultIssue(['to'], 'guestsByMail', {}))
  // Clients and hosts read different words.
  if (new Set(to.map(sideOf)).size > 1) context.addIssue(faultIssue(['to'], 'twoSides', {}))
})
export type OwnMessage = z.infer<typeof ownMessageSchema>

const sideOf = (reader: OwnReader): Audience => (reader === 'client' || reader === 'guests' ? 'client' : 'host')

/** In whose words it is written. */
export function audienceOf({ to }: Pick<OwnMessage, 'to'>): Audience {
  return to.some(reader => sideOf(reader) === 'host') ? 'host' : 'client'
}

/** Whether its readers can end it together with reminders: what comes by itself, and not because something has happened. */
export function isUnaskedFor({ moment }: Pick<OwnMessage, 'moment'>): boolean {
  return moment.kind !== 'on'
}

/** The states of a booking in which it is still true. */
export function statesOfOwn({ moment }: Pick<OwnMessage, 'moment'>): readonly BookingState[] {
  switch (moment.kind) {
    case 'before':
    case 'dayBefore': return ['confirmed']
    case 'after': return statesAfter[moment.if]
    case 'on': return ownOccasions[moment.occasion].states
  }
}

/** "2 hours before", "at 18:00 the day before", "1 day after". */
export function describeOwnMoment(moment: Exclude<OwnMoment, { kind: 'on' }>, locale: string): string {
  if (moment.kind !== 'after') return describeReminder(moment, locale)
  return moment.minutes === 0 ? 'at the end' : `${formatDuration(moment.minutes)} after`
}

/** Words to begin with. */
export function firstWording({ moment, by, to }: Pick<OwnMessage, 'moment' | 'by' | 'to'>): Wording {
  if (by === 'phone') return firstText({ moment, to })
  if (audienceOf({ to }) === 'host') return presets.own.host
  const ended = moment.kind === 'after' ? '\n\nIf you would rather not get such mails: {{ remindersPage }}' : ''
  if (moment.kind === 'after' && moment.if !== 'missed')
    return { subject: 'Thank you: {{ eventType.name }}', text: `Hello {{ client.firstName }},\n\nThank you for coming to {{ session.title }}.\n\n{{ workspace.name }}${ended}` }
  if (moment.kind === 'after' || (moment.kind === 'on' && moment.occasion === 'missed'))
    return { subject: 'We missed you: {{ eventType.name }}', text: `Hello {{ client.firstName }},\n\nWe are sorry that we did not meet. You are welcome to choose another time: {{ eventType.page }}\n\n{{ workspace.name }}${ended}` }
  return presets.own.client
}

/** Of a phone text; one that comes by itself says how to end it. */
function firstText({ moment, to }: Pick<OwnMessage, 'moment' | 'to'>): Wording {
  const { subject, text } = phonePresets[audienceOf({ to })]
  return { subject, text: audienceOf({ to }) === 'client' && moment.kind !== 'on' ? `${text}\nNo more texts: {{ remindersPage }}` : text }
}
