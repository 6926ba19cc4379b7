import type { EventType } from './load'
import { isOpen } from './load'

/** Listed, open event types that clients book with a certain host: as the only one of a chair, or by their own choice. */
export function bookableWith(eventTypes: readonly EventType[], hostId: string): EventType[] {
  return eventTypes.filter(eventType => isOpen(eventType) && eventType.listed && eventType.chairs.some(({ hosts, policy }) =>
    hosts.some(host => host.id === hostId) && (hosts.length === 1 || policy === 'client')))
}
