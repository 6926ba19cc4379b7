import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { queries } from '../../tests/oracle/cases'
import { formatInstant, instantToSeconds } from '../time/civil'
import { answerQuery, type OpeningsQuery } from '.'

const RUNS = { numRuns: process.env['TEMPORIA_LONG'] ? 600 : 150 }
const startsOf = (query: OpeningsQuery) => answerQuery(query).openings.map(opening => opening.start)
const changeHost = (
  query: OpeningsQuery,
  index: number,
  change: (host: OpeningsQuery['hosts'][number]) => OpeningsQuery['hosts'][number],
) => ({ ...query, hosts: query.hosts.map((host, i) => (i === index % query.hosts.length ? change(host) : host)) })

const SECONDS = 90_000
const law = (check: (query: OpeningsQuery, any: number) => void) => fc.assert(fc.property(queries, fc.nat(1000), check), RUNS)

describe('laws', () => {
  it('busy time only takes openings away, and hosts from those that stay', () => {
    law((query, any) => {
      const start = instantToSeconds(query.from) + any * 120
      const block = { start: formatInstant(start), end: formatInstant(start + (any % 7) * 900) }
      const before = new Map(answerQuery(query).openings.map(opening => [opening.start, opening]))
      for (const after of answerQuery(changeHost(query, any, host => ({ ...host, busy: [...host.busy, block] }))).openings) {
        const was = before.get(after.start)
        expect(was, `${after.start} came with more busy time`).toBeDefined()
        for (const [chair, hosts] of Object.entries(after.able)) expect(was?.able[chair]).toEqual(expect.arrayContaining([...hosts]))
      }
    })
  }, SECONDS)

  it('wider hours take no opening away but by moving the grid', () => {
    law((query, any) => {
      const from = any % 20
      const more = {
        days: ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const,
        from: `${String(from).padStart(2, '0')}:00`,
        to: `${String(from + 4).padStart(2, '0')}:30`,
      }
      const wider = changeHost(query, any, host => ({
        ...host,
        plans: host.plans.map(plan => ({
          ...plan,
          weekly: [...plan.weekly, { ...more, days: [...more.days] }],
          exceptions: plan.exceptions.map(exception => ({
            ...exception,
            windows: [...exception.windows, { from: more.from, to: more.to }],
          })),
        })),
      }))
      for (const explanation of answerQuery({ ...wider, explain: startsOf(query) }).explanations ?? []) {
        if (!explanation.offered)
          expect(
            explanation.reasons.map(reason => reason.code),
            `${explanation.at} went with wider hours`,
          ).toContain('offGrid')
      }
    })
  }, SECONDS)

  it('an opening is explained as offered, and everything else with a reason', () => {
    law((query) => {
      const starts = startsOf(query)
      const { explanations = [] } = answerQuery({ ...query, explain: [...starts, ...(query.explain ?? [])] })
      for (const [index, { offered, reasons }] of explanations.entries()) {
        if (index < starts.length) expect(offered).toBe(true)
        expect(reasons.length === 0).toBe(offered)
      }
    })
  }, SECONDS)

  it('a span in two parts has the openings of the whole', () => {
    law((query, any) => {
      const [from, to] = [instantToSeconds(query.from), instantToSeconds(query.to)]
      const middle = formatInstant(from + Math.floor((to - from) * any / 1000))
      expect([...answerQuery({ ...query, to: middle }).openings, ...answerQuery({ ...query, from: middle }).openings]).toEqual(
        answerQuery(query).openings,
      )
    })
  }, SECONDS)

  it('the order of hosts, pools, plans, windows and blocks does not matter, and the same question has the same answer', () => {
    law((query) => {
      const turned: OpeningsQuery = {
        ...query,
        eventType: { ...query.eventType, chairs: query.eventType.chairs.map(chair => ({ ...chair, hosts: [...chair.hosts].reverse() })) },
        openedOver: [...query.openedOver].reverse(),
        hosts: [...query.hosts].reverse().map(host => ({
          ...host,
          plans: [...host.plans]
            .reverse()
            .map(plan => ({ ...plan, weekly: [...plan.weekly].reverse(), exceptions: [...plan.exceptions].reverse() })),
          busy: [...host.busy].reverse(),
          sessions: [...host.sessions].reverse(),
        })),
      }
      const answer = answerQuery(query)
      expect(answerQuery(turned).openings).toEqual(answer.openings)
      expect(answerQuery(JSON.parse(JSON.stringify(query)))).toEqual(answer)
    })
  }, SECONDS)
})
