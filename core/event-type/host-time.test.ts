import { expect, it } from 'vitest'
import type { EngineSession } from '../openings/engine-query'
import { type HostTime, receiveHostTime, sendHostTime } from './host-time'

const session = (more: Partial<EngineSession>): EngineSession =>
  ({ id: 'a', start: 0, end: 0, bufferBeforeMinutes: 0, bufferAfterMinutes: 10, sameEventType: true, seatsTaken: 1, ...more })

it('arrives as it was sent, but for the ids of sessions of other event types, which are never the same', () => {
  const sessions = [
    session({ id: 'one', start: 1_796_000_000, end: 1_796_001_800 }),
    session({ id: 'two', start: 1_796_000_000, end: 1_796_003_601, sameEventType: false, seatsTaken: 0 }),
    session({ id: 'three', start: 1_795_999_999, end: 1_796_001_000, sameEventType: false, bufferBeforeMinutes: 5 }),
  ]
  const taken = [{ calendar: 'Work', holds: ['hold'], isWholeDay: false, entries: 2, times: [1_796_000_000, 1_796_003_600, 1_796_090_000, 1_796_090_001.5] }]
  const time: HostTime[] = ['h', 'i'].map(id => ({ id, plans: [], away: null, taken, sessions }))
  const received = receiveHostTime(JSON.parse(JSON.stringify(sendHostTime(time))))
  const withoutForeignIds = (all: HostTime[]) =>
    all.map(host => ({ ...host, sessions: host.sessions.map(({ id, ...rest }) => (rest.sameEventType ? { id, ...rest } : rest)) }))
  expect(withoutForeignIds(received)).toEqual(withoutForeignIds(time))
  const foreign = received.flatMap(host => host.sessions).filter(({ sameEventType }) => !sameEventType)
  expect(new Set(foreign.map(({ id }) => id)).size).toBe(4)
})
