import type { PlaceKind } from '../event-type/place-kinds'
import type { QuestionKind } from '../intake/kinds'
import { formatDuration } from '../time/format'

/** Words for the parts of an event type. */

export const placeWords: Record<PlaceKind, string> = {
  video: 'video',
  address: 'at an address',
  phoneWeCall: 'phone, we call you',
  phoneYouCall: 'phone, you call us',
  clientSuggests: 'client suggests a place',
  agreed: 'to be agreed',
}

/** The same for clients, who are spoken to. */
export const placeWordsForClients: Record<PlaceKind, string> = {
  video: 'by video',
  address: 'at an address',
  phoneWeCall: 'by phone: we call you',
  phoneYouCall: 'by phone: you call us',
  clientSuggests: 'at a place you suggest',
  agreed: 'at a place to be agreed',
}

/** What a question is answered with. */
export const answerTypes: Readonly<Record<QuestionKind, string>> = {
  text: 'one line of text',
  paragraph: 'several lines of text',
  email: 'an e-mail address',
  phone: 'a phone number',
  choice: 'single choice',
  choices: 'multiple choice',
  yesNo: 'yes or no',
  date: 'a date',
  number: 'a number',
}

/** Questions that many ask, to be taken as they are. */
export const commonQuestions: readonly { kind: QuestionKind, label: string }[] = [
  { kind: 'phone', label: 'Phone number' },
  { kind: 'text', label: 'Company' },
  { kind: 'text', label: 'How did you hear of us?' },
  { kind: 'paragraph', label: 'Is there anything we should prepare?' },
]

export function formatDurations(durations: readonly number[]): string {
  const same = durations.length > 1 && durations.every(minutes => minutes < 60 || minutes % 60 !== 0)
  if (same) return `${durations.slice(0, -1).join(', ')} or ${durations.at(-1)} minutes`
  return durations.map(minutes => (minutes <= 90 ? `${minutes} minutes` : formatDuration(minutes))).join(' or ')
}
