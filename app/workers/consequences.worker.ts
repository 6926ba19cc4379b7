import type { OpeningsQuery } from '~~/core/openings'
import { type Consequences, consequencesOf } from '~~/core/openings/consequences'

/** Computes openings away from the thread that draws, with the same core as the server. */

export interface ConsequencesRequest {
  id: number
  query: OpeningsQuery
}

export interface ConsequencesAnswer extends Consequences {
  id: number
}

self.onmessage = ({ data: { id, query } }: MessageEvent<ConsequencesRequest>) => {
  const answer: ConsequencesAnswer = { id, ...consequencesOf(query) }
  self.postMessage(answer)
}
