import { expect, it } from 'vitest'
import { conditionOf, isFull } from './accounts'

const plan = { rooms: 10, roomsUsed: 3 }

it('says of an account what keeps it from making rooms, the gravest first', () => {
  const full = { rooms: 10, roomsUsed: 10 }
  expect([
    conditionOf({ state: 'connected', refusal: null, plan }),
    conditionOf({ state: 'connected', refusal: null, plan: null }),
    conditionOf({ state: 'connected', refusal: null, plan: full }),
    conditionOf({ state: 'connected', refusal: { by: 'A service' }, plan: full }),
    conditionOf({ state: 'lost', refusal: { by: 'A service' }, plan: full }),
    conditionOf({ state: 'waiting', refusal: null, plan }),
  ]).toEqual(['works', 'works', 'full', 'refused', 'lost', 'waiting'])
})

it('takes an account for full only where its service says how much it allows', () => {
  const allowances = [null, { rooms: null, roomsUsed: 900 }, plan, { rooms: 0, roomsUsed: 0 }]
  expect(allowances.map(isFull)).toEqual([false, false, false, true])
})
