import { expect, it } from 'vitest'
import { dateToDays } from '../time/civil'
import { awayDays, awayPlan, awayUntil } from './away'

const stretch = (from: string, to: string) => ({ from, to, note: '' })
const away = [stretch('2027-03-10', '2027-03-12'), stretch('2027-03-13', '2027-03-14'), stretch('2027-03-01', '2027-03-02')]

it('days away are each counted once and only within a span', () => {
  const days = awayDays([...away, stretch('2027-03-12', '2027-03-13')], dateToDays('2027-03-02'), dateToDays('2027-03-13'))
  expect(days.map(day => day - dateToDays('2027-03-01'))).toEqual([1, 9, 10, 11, 12])
  expect(awayPlan(away, 'UTC', dateToDays('2027-04-01'), dateToDays('2027-05-01'))).toBeNull()
})

it('one is away until the last day of all stretches that touch', () => {
  expect(['2027-02-28', '2027-03-01', '2027-03-11', '2027-03-14', '2027-03-15'].map(date => awayUntil(away, dateToDays(date))))
    .toEqual([null, '2027-03-02', '2027-03-14', '2027-03-14', null])
})
