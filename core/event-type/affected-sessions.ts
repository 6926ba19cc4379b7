import { z } from 'zod'
import { answer, type EngineQuery, type Explanation } from '../openings'
import { instantToSeconds, MINUTE } from '../time/civil'
import { benchQuery, type Knowledge } from './bench-query'
import type { Definition } from './definition'

/** Which sessions already booked a definition would no longer allow. They stay; it is only said. */

/** A session of the event type that is still to come. */
export const bookedSessionSchema = z.strictObject({
  id: z.string(),
  start: z.iso.datetime(),
  end: z.iso.datetime(),
  hostIds: z.array(z.string()),
  placeKey: z.string(),
  clients: z.array(z.string()),
})
export type BookedSession = z.infer<typeof bookedSessionSchema>

/** Why a booked session would no longer be allowed. */
export type NoLongerAllowed =
  | { code: 'duration', minutes: number }
  | { code: 'place' }
  | { code: 'hostGone', hostId: string }
  | { code: 'emptyChair', chair: string }
  | { code: 'notOpen', explanation: Explanation, query: EngineQuery }

export interface Affected {
  session: BookedSession
  reasons: NoLongerAllowed[]
}

export function noLongerAllowed(
  definition: Definition,
  knowledge: Knowledge,
  booked: readonly BookedSession[],
): Affected[] {
  return booked
    .map(session => ({ session, reasons: reasonsAgainst(definition, knowledge, session) }))
    .filter(({ reasons }) => reasons.length > 0)
}

function reasonsAgainst(definition: Definition, knowledge: Knowledge, session: BookedSession): NoLongerAllowed[] {
  const { settings, chairs } = definition
  const start = instantToSeconds(session.start)
  const minutes = (instantToSeconds(session.end) - start) / MINUTE
  const reasons: NoLongerAllowed[] = []
  if (!settings.durations.includes(minutes)) reasons.push({ code: 'duration', minutes })
  if (!settings.places.some(place => place.key === session.placeKey)) reasons.push({ code: 'place' })
  const seated = chairs.map(chair => ({ ...chair, hosts: chair.hosts.filter(host => session.hostIds.includes(host.id)) }))
  const gone = session.hostIds.filter(id => !seated.some(chair => chair.hosts.some(host => host.id === id)))
  for (const hostId of gone) reasons.push({ code: 'hostGone', hostId })
  const empty = seated.find(chair => chair.hosts.length === 0)
  if (empty) return gone.length > 0 ? reasons : [...reasons, { code: 'emptyChair', chair: empty.name }]

  // As if it were booked today for the first time: without itself, and however soon it is.
  const time = knowledge.time.map(host => ({ ...host, sessions: host.sessions.filter(other => other.id !== session.id) }))
  const free = { ...definition, chairs: seated, settings: { ...settings, leadTimeMinutes: 0, seats: 1 } }
  const query = benchQuery(free, { ...knowledge, time }, { from: start, to: start, durationMinutes: minutes, explain: [session.start] })
  const [explanation] = answer(query).explanations ?? []
  return !explanation || explanation.offered ? reasons : [...reasons, { code: 'notOpen', explanation, query }]
}
