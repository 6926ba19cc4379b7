import fc from 'fast-check'
import { RRuleTemporal } from 'rrule-temporal'
import { expect, it } from 'vitest'
import { ruleFault } from './rule'

const weekdays = fc.constantFrom('MO', 'SU', '1TU', '-1FR', '+2WE', '0MO', 'XX', 'mo', '53SA', '100TH', '')
const numbers = (most: number) => fc.integer({ min: -most, max: most }).map(String)
const part = fc.oneof(
  fc.array(weekdays, { minLength: 1, maxLength: 3 }).map(days => `BYDAY=${days.join()}`),
  fc.constantFrom('WKST=MO', 'WKST=SU', 'WKST=1MO', 'WKST=', 'COUNT=3', 'INTERVAL=2', 'UNTIL=20270101', 'UNTIL=20270230', 'BYHOUR=3'),
  fc.tuple(fc.constantFrom('BYMONTH', 'BYMONTHDAY', 'BYYEARDAY', 'BYWEEKNO', 'BYSETPOS'), fc.array(numbers(60), { minLength: 1, maxLength: 2 }))
    .map(([name, values]) => `${name}=${values.join()}`),
)
const rules = fc.tuple(fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY', 'HOURLY'), fc.array(part, { maxLength: 4 }))
  .map(([frequency, more]) => [`FREQ=${frequency}`, ...more].join(';'))

function isExpanded(rule: string): boolean {
  try {
    const whole = rule.replace(/UNTIL=(\d{8})/, 'UNTIL=$1T000000Z')
    return Boolean(new RRuleTemporal({ rruleString: `DTSTART:20270101T000000Z\nRRULE:${whole}`, strict: true, cache: false }))
  } catch {
    return false
  }
}

it('a rule without a fault is one that the library expands', () => {
  let accepted = 0
  fc.assert(fc.property(rules, (rule) => {
    if (ruleFault(rule) !== null) return
    accepted++
    expect(isExpanded(rule), rule).toBe(true)
  }), { numRuns: 3000 })
  expect(accepted).toBeGreaterThan(200)
})

it.each([
  ['FREQ=WEEKLY;BYDAY=1MO', 'ruleUnreadable'],
  ['FREQ=YEARLY;BYWEEKNO=20;BYDAY=1MO', 'ruleUnreadable'],
  ['FREQ=WEEKLY;BYMONTHDAY=1', 'ruleUnreadable'],
  ['FREQ=MONTHLY;BYYEARDAY=5', 'ruleUnreadable'],
  ['FREQ=MONTHLY;BYWEEKNO=5', 'ruleUnreadable'],
  ['FREQ=DAILY;BYSETPOS=1', 'ruleUnreadable'],
  ['FREQ=WEEKLY;BYDAY=MO,', 'ruleUnreadable'],
  ['FREQ=HOURLY', 'ruleFrequency'],
  ['FREQ=MONTHLY;UNTIL=20270101;COUNT=2', 'ruleUntilAndCount'],
])('%s has the fault %s', (rule, code) => {
  expect(ruleFault(rule)?.code).toBe(code)
  expect(ruleFault('FREQ=MONTHLY;BYDAY=-1FR;BYSETPOS=1;WKST=SU')).toBeNull()
})
