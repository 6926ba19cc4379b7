import { randomUUID } from 'node:crypto'

/** Something that fits, with one place of it replaced by something nasty. */

export type Json = null | boolean | number | string | Json[] | { [name: string]: Json }

export const nasty: Json[] = [
  null,
  true,
  0,
  -1,
  0.5,
  1e308,
  2 ** 53,
  '',
  ' ',
  '\u0000',
  'in\u0000between',
  '\ud800',
  '\u202e',
  'a'.repeat(5000),
  '😀'.repeat(600),
  'two\r\nlines',
  '{{ client.name',
  '{% raw %}',
  '%',
  '../..',
  '\'; --',
  '=1+1',
  [],
  [null],
  [[]],
  ['x', 'x'],
  {},
  { __proto__: null, constructor: 'x' },
  { toString: 1 },
  '2027-02-30T00:00:00Z',
  '9999-12-31T23:59:59Z',
  '0000-01-01T00:00:00Z',
  '0000-01-01',
  '9999-12-31',
  '24:00',
  '25:00',
  'Mars/Base',
  'UTC',
  'FREQ=SECONDLY',
  'FREQ=DAILY;COUNT=0',
  randomUUID(),
]

/** The value with what stands at one of its places, counted through, replaced. */
export function spoiled(value: Json, where: number, by: Json): Json {
  const places = placesIn(value)
  return replaced(value, places[where % places.length] ?? [], by)
}

/** All places in a value, as the ways to them. */
function placesIn(value: Json, way: (string | number)[] = []): (string | number)[][] {
  const inner =
    value !== null && typeof value === 'object'
      ? Object.entries(value).flatMap(([name, one]) => placesIn(one, [...way, Array.isArray(value) ? Number(name) : name]))
      : []
  return [way, ...inner]
}

function replaced(value: Json, [first, ...rest]: (string | number)[], by: Json): Json {
  if (first === undefined) return by
  if (Array.isArray(value)) return value.map((item, index) => (index === first ? replaced(item, rest, by) : item))
  return { ...(value as object), [first]: replaced((value as Record<string, Json>)[first] ?? null, rest, by) }
}
