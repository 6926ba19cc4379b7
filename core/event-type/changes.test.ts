import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { plainPlan } from '../hours/plan'
import { parseHours } from '../time/hours-text'
import { formatNoLongerAllowed } from '../catalogue/affected-sessions'
import { noLongerAllowed } from './affected-sessions'
import { changesBetween, mergeChanges, partAt, describeChange } from './changes'
import { answer } from '../openings'
import { benchQuery } from './bench-query'
import { consequencesOf, differenceForClients } from './consequences'
import { type Definition, definitionSchema, slugFrom } from './definition'
import { NOW, sampleDefinition, sampleTime, takenBy } from '../../tests/support/samples'
import { DAY, instantToSeconds } from '../time/civil'

const base = sampleDefinition()

describe('changes between two definitions', () => {
  it('are told part by part in words, in the order of the bench', () => {
    const after = sampleDefinition({ durations: [30, 60], bufferAfterMinutes: 10, notes: 'Water first', name: 'Chat' }, { state: 'closed' })
    expect(changesBetween(base, after, 'en-GB').map(describeChange)).toEqual([
      'State: open → closed',
      'Name: Talk → Chat',
      'Duration: 30 minutes → 30 minutes or 60 minutes',
      'Kept free after: nothing → 10 minutes',
      'Notes for the team: none → “Water first”',
    ])
    expect(changesBetween(base, after, 'en-GB').filter(change => !change.forClients).map(change => change.label)).toEqual(['Notes for the team'])
    expect(changesBetween(base, sampleDefinition(), 'en-GB')).toEqual([])
  })

  it('stand where the paths of faults lead', () => {
    expect(partAt('settings.questions.0.label')).toMatchObject({ label: 'Questions', panel: 'questions' })
    expect(partAt('slug')).toMatchObject({ panel: 'address' })
    expect(partAt('hours.plan.weekly')).toMatchObject({ panel: 'hours' })
    expect(partAt('nothing')).toBeNull()
  })

  it('of two people go together, and what both changed is named', () => {
    const theirs = sampleDefinition({ durations: [45], leadTimeMinutes: 60, seats: 3 })
    const mine = sampleDefinition({ durations: [20], seats: 3, summary: 'Short' })
    const { definition, contested } = mergeChanges(base, mine, theirs, 'en-GB')
    expect(definition.settings).toMatchObject({ durations: [20], leadTimeMinutes: 60, seats: 3, summary: 'Short' })
    expect(contested).toEqual([{ label: 'Duration', mine: '20 minutes', theirs: '45 minutes' }])
    expect(mergeChanges(base, mine, base, 'en-GB')).toEqual({ definition: mine, contested: [] })
    expect(mergeChanges(base, base, theirs, 'en-GB')).toEqual({ definition: theirs, contested: [] })
  })
})

describe('changes of two people', () => {
  const change = fc.record(
    {
      name: fc.constantFrom('Chat', 'Visit'),
      durations: fc.constantFrom<number[]>([20], [30, 60]),
      seats: fc.constantFrom(2, 3),
      leadTimeMinutes: fc.constantFrom(0, 60),
      hours: fc.constant({ mode: 'narrow' as const, plan: plainPlan('Europe/Lisbon', parseHours('Mo 09:00-10:00')) }),
      notes: fc.constantFrom('Water first', 'None'),
    },
    { requiredKeys: [] },
  )
  const settingsOf = (definition: typeof base) => definition.settings as Record<string, unknown>

  it('all stand in what comes of both, mine before theirs, and only what differs is contested', () => {
    fc.assert(fc.property(change, change, (mine, theirs) => {
      const [ours, other] = [sampleDefinition(mine), sampleDefinition(theirs)]
      const { definition, contested } = mergeChanges(base, ours, other, 'en-GB')
      expect(definition).toEqual(sampleDefinition({ ...theirs, ...mine }))
      const both = Object.keys(mine).filter(
        name => name in theirs && JSON.stringify(settingsOf(ours)[name]) !== JSON.stringify(settingsOf(other)[name]),
      )
      expect(contested).toHaveLength(both.length)
      expect(changesBetween(other, definition, 'en-GB').length).toBeLessThanOrEqual(Object.keys(mine).length)
    }))
  })
})

describe('sessions booked already', () => {
  const session = {
    id: 's1',
    start: '2027-03-10T10:00:00Z',
    end: '2027-03-10T10:30:00Z',
    hostIds: ['ana'],
    placeKey: 'video',
    clients: ['Marta'],
  }
  const own = {
    id: 's1',
    start: instantToSeconds(session.start),
    end: instantToSeconds(session.end),
    bufferBeforeMinutes: 0,
    bufferAfterMinutes: 0,
    sameEventType: true,
    seatsTaken: 1,
  }
  const time = sampleTime().map(host => (host.id === 'ana' ? { ...host, sessions: [own] } : host))
  const reasons = (definition: typeof base) =>
    noLongerAllowed(definition, { time, holidays: {}, now: NOW }, [session])
      .flatMap(item => item.reasons)
      .flatMap(reason => formatNoLongerAllowed(reason, {
        zone: 'Europe/Lisbon', locale: 'en-GB', names: new Map([['ana', 'Ana'], ['bo', 'Bo']]), now: instantToSeconds(NOW),
      }))

  it('are not in their own way, and need not be booked in time any more', () => {
    expect(reasons(base)).toEqual([])
    expect(reasons(sampleDefinition({ leadTimeMinutes: 10_080 }))).toEqual([])
  })

  it('are told with each rule that would no longer allow them', () => {
    expect(reasons(sampleDefinition({ durations: [45] }))).toEqual(['It takes 30 minutes, which is no longer offered.'])
    expect(reasons(sampleDefinition({ places: [{ key: 'call', kind: 'phoneWeCall', label: '', detail: '' }] }))).toEqual([
      'Its place is no longer offered.',
    ])
    expect(reasons(sampleDefinition({ horizon: { kind: 'rolling', days: 1 } }))).toEqual([
      'That is too far ahead: the last day it can be booked for is 9 March.',
    ])
    expect(reasons(sampleDefinition({}, { chairs: base.chairs.map(chair => ({ ...chair, hosts: chair.hosts.slice(1) })) }))).toEqual([
      'Ana no longer hosts it.',
    ])
    expect(reasons(sampleDefinition({ startEveryMinutes: 45 }))[0]).toMatch(/Nothing starts at this minute/)
  })
})

describe('what a definition means', () => {
  it('hatches the hours in which nobody of a chair is free', () => {
    const busy = { start: '2027-03-09T10:00:00Z', end: '2027-03-09T12:00:00Z' }
    const time = sampleTime().map(host => ({
      ...host,
      taken: [takenBy(host.id === 'ana' ? [busy.start, busy.end] : ['2027-03-09T11:00:00Z', '2027-03-09T18:00:00Z'])],
    }))
    const from = instantToSeconds('2027-03-09T00:00:00Z')
    const { taken, starts } = consequencesOf(base, { time, holidays: {}, now: NOW }, { from, to: from + 86_400 })
    expect(taken).toEqual([busy.start.replace('10:', '11:'), busy.end].map(instantToSeconds))
    expect(starts).not.toContain(instantToSeconds('2027-03-09T11:00:00Z'))
  })
})

describe('a short address', () => {
  it('is made from any name, free of those taken', () => {
    expect(slugFrom('Première visite, à l’atelier!', new Set())).toBe('premiere-visite-a-l-atelier')
    expect(slugFrom('Talk', new Set(['talk', 'talk-2']))).toBe('talk-3')
    expect(slugFrom('講座', new Set())).toBe('talk')
  })

  it('and all else is refused where it does not fit', () => {
    const faults = (change: object) =>
      definitionSchema.safeParse({ ...sampleDefinition(), chairs: [], ...change }).error?.issues.map(issue => issue.path.join('.'))
    expect(faults({})).toEqual(['chairs'])
    expect(faults({ slug: 'Not good' })).toEqual(['slug', 'chairs'])
    const settings = base.settings
    expect(
      faults({ settings: { ...settings, description: 'x'.repeat(100_000), afterwards: { text: '', address: 'javascript:alert(1)' } } }),
    ).toEqual(['settings.description', 'settings.afterwards.address', 'chairs'])
    expect(
      faults({
        settings: {
          ...settings,
          questions: Array.from({ length: 400 }, (_, i) => ({ key: `q${i}`, kind: 'text', label: 'Why?', required: false })),
        },
      }),
    ).toEqual(['settings.questions', 'chairs'])
  })
})

describe('what publishing changes for clients', () => {
  const knowledge = { time: sampleTime(), holidays: {}, now: NOW }
  const span = { from: instantToSeconds(NOW), to: instantToSeconds(NOW) + 14 * DAY }
  const counted = (before: Definition, after: Definition) => differenceForClients(before, after, knowledge, span)
  const openings = (definition: Definition) => {
    const offered = definition.settings.durations.flatMap(
      durationMinutes => answer(benchQuery(definition, knowledge, { ...span, durationMinutes })).openings,
    )
    return new Set(definition.state === 'open' ? offered.map(({ start, end }) => `${start} ${end}`) : [])
  }

  it('is what the two lists of openings differ by, with ends', () => {
    const definitions = fc.record({
      durations: fc.uniqueArray(fc.constantFrom(30, 45, 60), { minLength: 1, maxLength: 2 }),
      startEveryMinutes: fc.constantFrom(30, 60),
      leadTimeMinutes: fc.constantFrom(0, 1440),
      state: fc.constantFrom('draft' as const, 'open' as const, 'open' as const, 'closed' as const),
    }).map(({ state, ...settings }) => sampleDefinition(settings, { state }))
    fc.assert(fc.property(definitions, definitions, (before, after) => {
      const [old, fresh] = [openings(before), openings(after)]
      expect(counted(before, after)).toEqual({
        gained: [...fresh].filter(opening => !old.has(opening)).length, lost: [...old].filter(opening => !fresh.has(opening)).length,
      })
    }), { numRuns: 40 })
  })

  it('is all of them where it opens, and each one where sessions last longer', () => {
    const open = sampleDefinition({}, { state: 'open' })
    expect(counted(sampleDefinition({}, { state: 'draft' }), open)).toEqual({ gained: openings(open).size, lost: 0 })
    const longer = sampleDefinition({ durations: [45] }, { state: 'open' })
    expect(counted(open, longer)).toEqual({ gained: openings(longer).size, lost: openings(open).size })
  })
})
