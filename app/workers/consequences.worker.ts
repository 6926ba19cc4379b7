import { answerQuery, type OpeningsQuery } from '~~/core/openings'
import { instantToSeconds } from '~~/core/time/civil'

/** Computes openings away from the thread that draws, with the same core as the server. */

export interface ConsequencesRequest {
  id: number
  query: OpeningsQuery
}

export interface ConsequencesAnswer {
  id: number
  starts: number[]
  /** Hosts that at least one opening can be had with. */
  hosts: string[]
  milliseconds: number
}

self.onmessage = ({ data }: MessageEvent<ConsequencesRequest>) => {
  const begun = performance.now()
  const { openings } = answerQuery(data.query)
  const answer: ConsequencesAnswer = {
    id: data.id,
    starts: openings.map(opening => instantToSeconds(opening.start)),
    hosts: [...new Set(openings.flatMap(opening => Object.values(opening.able).flat()))],
    milliseconds: performance.now() - begun,
  }
  self.postMessage(answer)
}
