import { describe, expect, it } from 'vitest'
import { afterFailure, followsAtOnce, nextWay, patternSchema, presetWays } from './ways'

const HOUR = 3600
const now = 1_800_000_000

describe('the next way', () => {
  const open = [
    { key: 'fixed ana', kind: 'fixed' as const }, { key: 'own ana', kind: 'own' as const }, { key: 'own bo', kind: 'own' as const },
    { key: 'pattern', kind: 'pattern' as const },
  ]
  it('is the first in the order that was not given up', () => {
    const keys: string[] = []
    for (let way = nextWay(open, presetWays, keys); way; way = nextWay(open, presetWays, keys)) keys.push(way.key)
    expect(keys).toEqual(['own ana', 'own bo', 'pattern', 'fixed ana'])
    expect(nextWay(open, ['pattern'], [])?.key).toBe('pattern')
    expect(nextWay(open, ['workspace'], [])).toBeNull()
  })
})

describe('a try that failed', () => {
  const far = { now, start: now + 48 * HOUR, since: now, waitsUntil: null }
  it('is followed by others of the same way as long as there is time, with growing pauses', () => {
    expect(afterFailure(far, 30, true, false)).toEqual({ kind: 'again', at: now + 30 })
    expect(afterFailure({ ...far, since: now - 7200 }, 30, true, false)).toEqual({ kind: 'another' })
    expect(afterFailure({ ...far, since: now - 7200 }, 30, false, false)).toEqual({ kind: 'again', at: now + 30 })
  })
  it('is followed by another way after six seconds while a confirmation waits', () => {
    const waiting = { ...far, waitsUntil: now + 10 }
    expect(afterFailure({ ...waiting, since: now - 3 }, 2, true, false)).toEqual({ kind: 'again', at: now + 2 })
    expect(afterFailure({ ...waiting, since: now - 4 }, 2, true, false)).toEqual({ kind: 'another' })
  })
  it('is followed by another every few seconds minutes before the session', () => {
    expect(afterFailure({ ...far, start: now + 300 }, 1800, false, false)).toEqual({ kind: 'again', at: now + 5 })
    expect(afterFailure({ ...far, start: now + 300 }, 1800, true, false)).toEqual({ kind: 'again', at: now + 5 })
    expect(afterFailure({ ...far, start: now + 300, since: now - 15 }, 1800, true, false)).toEqual({ kind: 'another' })
  })
  it('is followed by another way at once where only a person can mend it', () => {
    expect(afterFailure(far, 30, true, true)).toEqual({ kind: 'another' })
  })
})

it('a pattern needs the room’s part in its path, once, and nothing else to fill in', () => {
  for (const good of ['', 'https://meet.example.org/{room}', 'http://127.0.0.1:8080/a-{room}?x=1', 'https://meet.example.org/#{room}'])
    expect(patternSchema.safeParse(good).success, good).toBe(true)
  for (const bad of [
    'https://meet.example.org/', '{room}', 'https://{room}.example.org/', 'javascript:{room}', 'https://meet.example.org/{room}/{room}',
    'https://meet.example.org/{name}-{room}', 'ftp://meet.example.org/{room}',
  ]) expect(patternSchema.safeParse(bad).success, bad).toBe(false)
})

it('sessions with no time between them follow at once', () => {
  const session = { start: 100, end: 200 }
  expect(followsAtOnce(session, [{ start: 200, end: 300 }])).toBe(true)
  expect(followsAtOnce(session, [{ start: 50, end: 100 }])).toBe(true)
  expect(followsAtOnce(session, [{ start: 260, end: 300 }, { start: 10, end: 40 }])).toBe(false)
})
