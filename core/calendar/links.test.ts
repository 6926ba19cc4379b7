import { describe, expect, it } from 'vitest'
import { calendarLinkSchema, fillCalendarLink } from './links'

const isSound = (address: string) => calendarLinkSchema.safeParse({ name: 'Web calendar', address }).success

describe('a link to a web calendar', () => {
  it('carries a session, and nothing of it can leave its place in the address', () => {
    const values = { title: 'Tea & cake?#', start: '20270329T093000Z', end: '20270329T095000Z', place: '1 Quay/Road' }
    expect(fillCalendarLink('https://calendar.example/new?text={title}&dates={start}/{end}&at={place}', values))
      .toBe('https://calendar.example/new?text=Tea%20%26%20cake%3F%23&dates=20270329T093000Z/20270329T095000Z&at=1%20Quay%2FRoad')
  })

  it.each([
    'https://calendar.example/new?start={start}', 'https://calendar.example/{start}/{end}?title={title}',
  ])('may be %s', address => expect(isSound(address)).toBe(true))

  it.each([
    'https://calendar.example/new', 'http://calendar.example/?start={start}', 'javascript:alert({start})', 'https://{title}.example/?start={start}',
    'https://calendar.example/?start={start}&who={client}', 'https://{start}', 'https://calendar.example@{title}/{start}', '{start}',
  ])('may not be %s', address => expect(isSound(address)).toBe(false))
})
