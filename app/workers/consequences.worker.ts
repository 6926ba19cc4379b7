import { type CheckContext, type Finding, findingsOf } from '~~/core/checks'
import type { Span } from '~~/core/event-type/bench-query'
import { type Affected, type BookedSession, noLongerAllowed } from '~~/core/event-type/affected-sessions'
import { type Consequences, consequencesOf, differenceForClients, type OpeningsDifference } from '~~/core/event-type/consequences'
import type { Definition } from '~~/core/event-type/definition'

/** Computes what a definition means away from the thread that draws, with the same core as the server. */

export type WorkerContext = Omit<CheckContext, 'definition'>

export type Question =
  | { kind: 'openings', definition: Definition, span: Span }
  | { kind: 'findings', definition: Definition }
  | { kind: 'difference', before: Definition, after: Definition, span: Pick<Span, 'from' | 'to'> }
  | { kind: 'affected', definition: Definition, booked: readonly BookedSession[] }

/** What is known around the event type crosses once; after that only definitions do. */
export type ToWorker = { context: WorkerContext } | { id: number, question: Question }

export interface Answers {
  openings: Consequences
  findings: Finding[]
  affected: Affected[]
  difference: OpeningsDifference
}

let context: WorkerContext | null = null

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if ('context' in data) context = data.context
  else if (context) self.postMessage({ id: data.id, answer: answer(data.question, context) })
}

function answer(question: Question, known: WorkerContext): Answers[keyof Answers] {
  switch (question.kind) {
    case 'openings': return consequencesOf(question.definition, known, question.span)
    case 'findings': return findingsOf({ ...known, definition: question.definition })
    case 'difference': return differenceForClients(question.before, question.after, known, question.span)
    case 'affected': return noLongerAllowed(question.definition, known, question.booked)
  }
}
