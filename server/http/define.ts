import { defineEventHandler, type H3Event, setResponseHeader } from 'h3'
import type { Context } from '../context'
import { type Answering, JsonStream, JsonText } from '../json-text'
import type { AnswerOf, CallName } from './calls'
import { answerProblem, problem } from './problem'

/** Wraps a call: gives it the context, binds its answer to its row, and turns what it throws into a problem document. */
export function defineCall<Name extends CallName>(
  _name: Name,
  handler: (event: H3Event, context: Context) => Promise<Answering<AnswerOf<Name>>>,
) {
  return answering(handler)
}

/** Wraps a handler of addresses that are no call. */
export function answering<Answer>(handler: (event: H3Event, context: Context) => Promise<Answer>) {
  return defineEventHandler(async (event) => {
    setResponseHeader(event, 'cache-control', 'no-store')
    try {
      const answer = await handler(event, contextOf(event))
      if (!(answer instanceof JsonText) && !(answer instanceof JsonStream)) return answer
      setResponseHeader(event, 'content-type', 'application/json')
      return answer instanceof JsonText ? answer.text : answer.stream
    } catch (error) {
      return answerProblem(event, error)
    }
  })
}

export function contextOf(event: H3Event): Context {
  if (!event.context.app) throw problem('notReady', 'starting', {})
  return event.context.app
}
