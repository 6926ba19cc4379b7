import type { Unread } from '../calendar/taken'

/** Sentences about calendars. */

const unread: Readonly<Record<Unread['code'], (text: string) => string>> = {
  cutOff: () => 'The text ends in the middle of it.',
  noStart: () => 'It does not say when it starts.',
  time: text => `“${text}” is no date or time.`,
  duration: text => `“${text}” is no duration.`,
  rule: text => `Its recurrence rule cannot be read: ${text}.`,
  tooMuch: () => 'It comes round too often to be worked out.',
  unknownZone: text => `Its time zone “${text}” is not known; it was read in the calendar’s own zone.`,
}

export function formatUnread({ code, text }: Unread): string {
  return unread[code](text)
}
