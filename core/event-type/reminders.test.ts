import { describe, expect, it } from 'vitest'
import { instantToSeconds } from '../time/civil'
import { dueReminder, PRESET_REMINDERS, type Reminder, reminderDue, reminderKey, remindersSchema } from './reminders'

const at = instantToSeconds
const evening: Reminder = { kind: 'dayBefore', at: '18:00' }

describe('a reminder', () => {
  it.each([
    // Lisbon's clocks go forward on Sunday 28 March 2027 at 1:00.
    ['the evening before a clock change', '2027-03-28T09:00:00Z', 'Europe/Lisbon', '2027-03-27T18:00:00Z'],
    ['the evening of a clock change', '2027-03-29T09:00:00Z', 'Europe/Lisbon', '2027-03-28T17:00:00Z'],
    ['the day before in the reader’s zone, not in the host’s', '2027-03-29T20:00:00Z', 'Asia/Kolkata', '2027-03-29T12:30:00Z'],
  ])('is due on %s', (_, start, zone, due) => {
    expect(reminderDue(evening, at(start), zone)).toBe(at(due))
  })

  it('is due so many minutes before, whatever clocks do', () => {
    expect(reminderDue({ kind: 'before', minutes: 1440 }, at('2027-03-28T09:00:00Z'), 'Europe/Lisbon')).toBe(at('2027-03-27T09:00:00Z'))
  })
})

describe('what is due now', () => {
  const start = at('2027-04-02T09:00:00Z')
  const due = (now: string, toldAt = '2027-03-01T09:00:00Z', reminders: readonly Reminder[] = PRESET_REMINDERS) => {
    const found = dueReminder(reminders, { start, zone: 'UTC', toldAt: at(toldAt) }, at(now))
    return found && reminderKey(found)
  }

  it.each([
    ['nothing too early', '2027-04-01T08:59:59Z', null],
    ['the first from its moment on', '2027-04-01T09:00:00Z', 'before 1440'],
    ['the first still, where nothing was sent for most of a day', '2027-04-02T07:49:00Z', 'before 1440'],
    ['nothing where the next comes within minutes', '2027-04-02T07:55:00Z', null],
    ['the last alone, where both are due', '2027-04-02T08:30:00Z', 'before 60'],
    ['nothing once it has begun', '2027-04-02T09:00:00Z', null],
  ])('is %s', (_, now, expected) => {
    expect(due(now)).toBe(expected)
  })

  it('is nothing that its reader was told at the same time', () => {
    expect(due('2027-04-02T08:00:00Z', '2027-04-02T07:51:00Z')).toBe(null)
    expect(due('2027-04-02T08:00:00Z', '2027-04-02T07:50:00Z')).toBe('before 60')
    // Booked three hours before: not the one of a day before, but the one of an hour.
    expect([due('2027-04-02T06:30:00Z', '2027-04-02T06:00:00Z'), due('2027-04-02T08:10:00Z', '2027-04-02T06:00:00Z')]).toEqual([null, 'before 60'])
  })
})

it('the same reminder twice is refused', () => {
  expect(remindersSchema.safeParse([evening, { kind: 'before', minutes: 60 }, { ...evening }]).error?.issues.map(({ path }) => path)).toEqual([[2]])
})
