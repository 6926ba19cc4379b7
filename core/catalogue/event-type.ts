import type { PlaceKind } from '../event-type/place-kinds'
import type { QuestionKind } from '../intake/kinds'
import { formatDuration } from '../time/format'

/** Words for the parts of an event type. */

export const placeWords: Record<PlaceKind, string> = {
  video: 'video',
  address: 'at an address',
  phoneWeCall: 'phone, we call you',
  phoneYouCall: 'phone, you call us',
  clientSuggests: 'your suggestion',
  agreed: 'to be agreed',
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

export function formatDurations(durations: readonly number[]): string {
  const same = durations.length > 1 && durations.every(minutes => minutes < 60 || minutes % 60 !== 0)
  if (same) return `${durations.slice(0, -1).join(', ')} or ${durations.at(-1)} minutes`
  return durations.map(minutes => (minutes <= 90 ? `${minutes} minutes` : formatDuration(minutes))).join(' or ')
}
