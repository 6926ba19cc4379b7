import fc from 'fast-check'
import { expect, it } from 'vitest'
import { queries } from '../../tests/oracle/cases'
import { oracleAnswer } from '../../tests/oracle/openings'
import { answerQuery, parseQuery } from '.'

/** The long run asks far more. */
const RUNS = process.env['TEMPORIA_LONG'] ? 20_000 : 300

it(`agrees with the rules worked out minute by minute, on ${RUNS} random queries of any zone`, () => {
  let offered = 0
  fc.assert(fc.property(queries, (query) => {
    const answer = answerQuery(parseQuery(query))
    offered += answer.openings.length
    expect(answer).toEqual(oracleAnswer(query))
  }), { numRuns: RUNS })
  expect(offered, 'openings met on the way').toBeGreaterThan(RUNS)
}, 1_800_000)
