import type { Explanation } from '../openings'
import { type Compiled, compile } from '../openings/compile'
import { explainStarts } from '../openings/explain'
import { jointHours } from '../openings/grid'
import { eachOffered, hoursOfHosts } from '../openings/offered'
import { instantToSeconds } from '../time/civil'
import { intersect, type Intervals, subtract, union, unionOf } from '../time/intervals'
import { benchQuery, type Knowledge, type Span } from './bench-query'
import type { Definition } from './definition'

/** What a definition means for clients: openings, and where time is taken. */

export interface Consequences {
  /** Starts on offer, seconds since the epoch, ascending; often thousands, which cross from a worker as one block. */
  starts: Float64Array
  /** Hosts that at least one opening can be had with. */
  hosts: string[]
  /** Hours in which everybody of some chair is taken: bounds one after another, in seconds. */
  taken: Intervals
  explanations: Explanation[]
}

export function consequencesOf(definition: Definition, knowledge: Knowledge, span: Span): Consequences {
  const compiled = compile(benchQuery(definition, knowledge, span))
  const starts: number[] = []
  const hosts = new Set<string>()
  let before: unknown
  eachOffered(compiled, (start, able) => {
    starts.push(start)
    if (able !== before) for (const ids of Object.values(able)) for (const id of ids) hosts.add(id)
    before = able
  })
  return {
    starts: Float64Array.from(starts),
    hosts: [...hosts],
    taken: takenTime(compiled),
    explanations: explainStarts(compiled, (span.explain ?? []).map(instantToSeconds)),
  }
}

/** Openings that clients get or lose; one with another end is another opening. */
export interface OpeningsDifference {
  gained: number
  lost: number
}

/** What publishing `after` in place of `before` changes for clients within a span. Nothing is open to them unless its state is. */
export function differenceForClients(
  before: Definition, after: Definition, knowledge: Knowledge, span: Pick<Span, 'from' | 'to'>,
): OpeningsDifference {
  const [old, fresh] = [clientOpenings(before, knowledge, span), clientOpenings(after, knowledge, span)]
  const without = (openings: Set<string>, others: Set<string>) => [...openings].filter(opening => !others.has(opening)).length
  return { gained: without(fresh, old), lost: without(old, fresh) }
}

function clientOpenings(definition: Definition, knowledge: Knowledge, span: Pick<Span, 'from' | 'to'>): Set<string> {
  const openings = new Set<string>()
  if (definition.state !== 'open') return openings
  for (const durationMinutes of definition.settings.durations) {
    const compiled = compile(benchQuery(definition, knowledge, { ...span, durationMinutes }))
    eachOffered(compiled, start => openings.add(`${start} ${durationMinutes}`))
  }
  return openings
}

/** Within the hours that could be booked: where all hosts of a chair are open and none of them is free. */
function takenTime(compiled: Compiled): Intervals {
  if (compiled.from >= compiled.to) return []
  const hours = hoursOfHosts(compiled, compiled.from, compiled.to)
  const joint = jointHours(compiled, hours)
  const free = new Map(compiled.hosts.map((host) => {
    const sessions = host.sessions.flatMap(session => [session.start - session.before, session.end + session.after])
    return [host, subtract(hours.get(host) ?? [], union(sessions.length === 0 ? host.busy : [...Array.from(host.busy), ...sessions]))]
  }))
  return intersect(unionOf(compiled.chairs.map(chair => subtract(joint, unionOf(chair.hosts.map(host => free.get(host) ?? []))))), [
    compiled.from,
    compiled.to,
  ])
}
