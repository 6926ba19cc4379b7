import { z } from 'zod'
import { answer } from '../openings'
import { formatReasons } from '../openings/format-reason'
import { instantToSeconds, MINUTE } from '../time/civil'
import { formatDuration } from '../time/format'
import { benchQuery, type Knowledge } from './consequences'
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

export interface Affected {
  session: BookedSession
  /** Sentences. */
  reasons: string[]
}

export interface Reader {
  zone: string
  locale: string
  /** Names by host id. */
  names: Readonly<Record<string, string>>
}

export function noLongerAllowed(
  definition: Definition,
  knowledge: Knowledge,
  booked: readonly BookedSession[],
  reader: Reader,
): Affected[] {
  return booked
    .map(session => ({ session, reasons: reasonsAgainst(definition, knowledge, session, reader) }))
    .filter(({ reasons }) => reasons.length > 0)
}

function reasonsAgainst(definition: Definition, knowledge: Knowledge, session: BookedSession, reader: Reader): string[] {
  const { settings, chairs } = definition
  const start = instantToSeconds(session.start)
  const minutes = (instantToSeconds(session.end) - start) / MINUTE
  const reasons: string[] = []
  if (!settings.durations.includes(minutes)) reasons.push(`It takes ${formatDuration(minutes)}, which is no longer offered.`)
  if (!settings.places.some(place => place.key === session.placeKey)) reasons.push('Its place is no longer offered.')
  const seated = chairs.map(chair => ({ ...chair, hosts: chair.hosts.filter(host => session.hostIds.includes(host.id)) }))
  const gone = session.hostIds.filter(id => !seated.some(chair => chair.hosts.some(host => host.id === id)))
  for (const id of gone) reasons.push(`${reader.names[id] ?? 'Its host'} no longer hosts it.`)
  const empty = seated.find(chair => chair.hosts.length === 0)
  if (empty) return gone.length > 0 ? reasons : [...reasons, `Nobody sits in the chair “${empty.name}”.`]

  // As if it were booked today for the first time: without itself, and however soon it is.
  const time = knowledge.time.map(host => ({ ...host, sessions: host.sessions.filter(other => other.id !== session.id) }))
  const free = { ...definition, chairs: seated, settings: { ...settings, leadTimeMinutes: 0, seats: 1 } }
  const query = benchQuery(free, { ...knowledge, time }, { from: start, to: start, durationMinutes: minutes, explain: [session.start] })
  const [explanation] = answer(query).explanations ?? []
  if (!explanation || explanation.offered) return reasons
  return [
    ...reasons,
    ...formatReasons(explanation, {
      query,
      zone: reader.zone,
      locale: reader.locale,
      names: new Map(Object.entries(reader.names)),
      now: instantToSeconds(knowledge.now),
    }).map(reason => reason.words),
  ]
}
