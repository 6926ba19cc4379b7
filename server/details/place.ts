import type { Place } from '../../core/event-type/settings'
import { placeWords } from '../../core/catalogue/event-type'

/** Where a session is to take place, in words that clients may read before it is confirmed: no address, no number. */
export function formatPlaceLabel(place: Place): string {
  return place.label || placeWords[place.kind]
}

/** Where a session takes place, in words. Links are not part of it. */
export function formatPlace(place: Place, clientPhone: string | null): string {
  switch (place.kind) {
    case 'video':
      return 'By video'
    case 'address':
      return place.detail || place.label
    case 'phoneWeCall':
      return clientPhone ? `By phone: we call ${clientPhone}` : 'By phone: we call you'
    case 'phoneYouCall':
      return `By phone: you call ${place.detail}`
    default:
      return place.detail || place.label || placeWords[place.kind]
  }
}
