import { formatDuration } from '../time/format'

/** Words for an event type's parts that any page may need, without the schemas that check them. */

export const placeKinds = ['video', 'address', 'phoneWeCall', 'phoneYouCall', 'clientSuggests', 'agreed'] as const
export type PlaceKind = (typeof placeKinds)[number]

export const placeWords: Record<PlaceKind, string> = {
  video: 'video',
  address: 'at an address',
  phoneWeCall: 'phone, we call you',
  phoneYouCall: 'phone, you call us',
  clientSuggests: 'your suggestion',
  agreed: 'to be agreed',
}

export function formatDurations(durations: readonly number[]): string {
  const same = durations.length > 1 && durations.every(minutes => minutes < 60 || minutes % 60 !== 0)
  if (same) return `${durations.slice(0, -1).join(', ')} or ${durations.at(-1)} minutes`
  return durations.map(minutes => (minutes <= 90 ? `${minutes} minutes` : formatDuration(minutes))).join(' or ')
}
