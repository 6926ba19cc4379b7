import { instantToSeconds } from '../time/civil'
import { compile } from './compile'
import { type Explanation, explainStarts } from './explain'
import { eachOffered, type Opening, openingAt, offeredStarts } from './offered'
import { type EngineQuery, fromCase } from './engine-query'
import type { OpeningsQuery } from './schema'

export type { Explanation, Reason } from './explain'
export type { Opening } from './offered'
export { CaseError, jsonPath, parseQuery, readQuery } from './case'
export { horizonKinds, hoursPlanSchema, querySchema, zoneName } from './schema'
export { type EngineHost, type EngineQuery, type EngineSession, engineSessionSchema, fromCase, toCase } from './engine-query'
export type { Horizon, HoursPlan, OpeningsQuery } from './schema'
export { type SpanSummary, summariseSpan } from './span-summary'
export { distinctHosts } from './matching'

export interface OpeningsAnswer {
  openings: Opening[]
  explanations?: Explanation[]
}

/** The openings of a query, or null where there are more than `most`. */
export function answerWithin(query: EngineQuery, most: number): Opening[] | null {
  const compiled = compile(query)
  const openings: Opening[] = []
  let count = 0
  eachOffered(compiled, (...start) => {
    if (++count <= most) openings.push(openingAt(compiled, ...start))
  })
  return count > most ? null : openings
}

/**
 * Which start times a client may book, with which hosts, and why others are not offered.
 * The query must fit `querySchema` (see `parseQuery`); the answer is plain JSON.
 */
export function answerQuery(query: OpeningsQuery): OpeningsAnswer {
  return answer(fromCase(query))
}

/** Like `answerQuery`, for a query with taken time in seconds. */
export function answer(query: EngineQuery): OpeningsAnswer {
  const compiled = compile(query)
  const openings = offeredStarts(compiled)
  if (!query.explain) return { openings }
  return { openings, explanations: explainStarts(compiled, query.explain.map(instantToSeconds)) }
}
