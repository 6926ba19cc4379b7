import type { NoLongerAllowed } from '../event-type/affected-sessions'
import { formatDuration } from '../time/format'
import { formatReasons, type Reader } from './reasons'

/** Why a booked session would no longer be allowed, in sentences. */
export function formatNoLongerAllowed(reason: NoLongerAllowed, reader: Omit<Reader, 'query'>): string[] {
  switch (reason.code) {
    case 'duration': return [`It takes ${formatDuration(reason.minutes)}, which is no longer offered.`]
    case 'place': return ['Its place is no longer offered.']
    case 'hostGone': return [`${reader.names.get(reason.hostId) ?? 'Its host'} no longer hosts it.`]
    case 'emptyChair': return [`Nobody sits in the chair “${reason.chair}”.`]
    case 'notOpen': return formatReasons(reason.explanation, { ...reader, query: reason.query }).map(({ text }) => text)
  }
}
