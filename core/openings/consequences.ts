import { instantToSeconds } from '../time/civil'
import type { OpeningsQuery } from './schema'
import { answerQuery, type Explanation } from '.'

/** What the bench shows of an answer: less than all of it, so that little has to cross from the worker. */
export interface Consequences {
  /** Starts on offer, seconds since the epoch, ascending. */
  starts: number[]
  /** Hosts that at least one opening can be had with. */
  hosts: string[]
  /** What was to be explained. */
  explanations: Explanation[]
}

export function consequencesOf(query: OpeningsQuery): Consequences {
  const { openings, explanations = [] } = answerQuery(query)
  const hosts = new Set<string>()
  let before: unknown
  for (const { able } of openings) {
    if (able !== before) for (const ids of Object.values(able)) for (const id of ids) hosts.add(id)
    before = able
  }
  return { starts: openings.map(opening => instantToSeconds(opening.start)), hosts: [...hosts], explanations }
}
