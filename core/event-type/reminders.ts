import { z } from 'zod'
import { DAY, MINUTE, parseClock } from '../time/civil'
import { formatDuration, formatList, formatTimeOfDay } from '../time/format'
import { zoneOf } from '../time/zone'
import { fault, faultIssue } from '../validation'

/** When clients and their guests are reminded of a session, and which reminder is due. */

/** The longest before: thirty days. */
export const MOST_MINUTES = 43_200

export const reminderSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('before'), minutes: z.int().min(10).max(MOST_MINUTES) }),
  /** At a time of day, in the zone of whoever reads it. */
  z.strictObject({ kind: z.literal('dayBefore'), at: z.string().max(10).refine(text => parseClock(text) !== null, fault('timeOfDay')) }),
])
export type Reminder = z.infer<typeof reminderSchema>

export const remindersSchema = z.array(reminderSchema).max(5).superRefine((reminders, context) => {
  const keys = reminders.map(reminderKey)
  keys.forEach((key, index) => {
    if (keys.indexOf(key) < index) context.addIssue(faultIssue([index], 'repeated', { value: describeReminder(reminders[index] as Reminder, 'en-GB') }))
  })
})

/** Most people never put a session into their calendar, so they are reminded a day and an hour before. */
export const PRESET_REMINDERS: readonly Reminder[] = [{ kind: 'before', minutes: 1440 }, { kind: 'before', minutes: 60 }]

/** What tells the reminders of an event type apart. */
export function reminderKey(reminder: Reminder): string {
  return reminder.kind === 'before' ? `before ${reminder.minutes}` : `dayBefore ${reminder.at}`
}

/** When it is due, in seconds; `zone` is the reader's. */
export function reminderDue(reminder: Reminder, start: number, zone: string): number {
  if (reminder.kind === 'before') return start - reminder.minutes * MINUTE
  const { dayOf, toInstant } = zoneOf(zone)
  return toInstant((dayOf(start) - 1) * DAY + (parseClock(reminder.at) ?? 0) * MINUTE)
}

/** Whoever was told of the session so little before a reminder is due, or is told so little after, need not read it twice. Seconds. */
const KNOWN_FOR = 10 * MINUTE

/**
 * The reminder that is to be sent now, if any: the latest that is due, since one that an outage held up is overtaken by the
 * next. None after the start, nor where its reader was told of the session at the same time. Instants in seconds.
 */
export function dueReminder(
  reminders: readonly Reminder[], { start, zone, toldAt }: { start: number, zone: string, toldAt: number }, now: number,
): Reminder | null {
  if (start <= now) return null
  // One that comes within minutes says the same.
  const due = reminders.map(reminder => ({ reminder, at: reminderDue(reminder, start, zone) })).filter(({ at }) => at <= now + KNOWN_FOR)
  const last = due.reduce<(typeof due)[number] | null>((latest, one) => (latest && latest.at >= one.at ? latest : one), null)
  return last && last.at <= now && last.at >= toldAt + KNOWN_FOR ? last.reminder : null
}

/** "1 day before", "at 18:00 the day before". */
export function describeReminder(reminder: Reminder, locale: string): string {
  return reminder.kind === 'before' ? `${formatDuration(reminder.minutes)} before`
    : `at ${formatTimeOfDay(parseClock(reminder.at) ?? 0, locale)} the day before`
}

export const describeReminders = (reminders: readonly Reminder[], locale: string) =>
  formatList(reminders.map(reminder => describeReminder(reminder, locale)))
