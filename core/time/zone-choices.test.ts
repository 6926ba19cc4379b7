import { expect, it } from 'vitest'
import { listZones, matchesZone, rankZones } from './zone-choices'

const all = listZones('en-GB', Date.UTC(2027, 2, 8) / 1000)
const found = (typed: string) => rankZones(all, typed).filter(choice => matchesZone(choice, typed)).map(choice => choice.name)

it('a zone is found by city, country, offset or its own name, best matches first', () => {
  expect(found('india')[0]).toBe('Kolkata')
  expect(found('India ')[0]).toBe('Kolkata')
  expect(found('lis')[0]).toBe('Lisbon')
  expect(found('kiev').concat(found('kyiv'))).toContain('Kyiv')
  expect(found('st john')[0]).toBe('St John’s')
  expect(found('+5:30')).toContain('Kolkata')
  expect(found('america/halifax')).toEqual(['Halifax'])
  expect(found('São Paulo')[0]).toBe('Sao Paulo')
  expect(found('')).toEqual(all.map(choice => choice.name))
  expect(found('atlantis')).toEqual([])
})
