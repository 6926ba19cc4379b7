import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { instantToSeconds } from '../time/civil'
import { calendarText, type CalendarEntry } from './entry'

const odd = 'Quill, "Ink" & Söhne; مرحبا 📜\\'
const entry: CalendarEntry = {
  method: 'REQUEST',
  tentative: false,
  uid: 'b1@book.example',
  sequence: 3,
  stamp: instantToSeconds('2027-03-01T08:00:00Z'),
  start: instantToSeconds('2027-03-29T09:30:00Z'),
  end: instantToSeconds('2027-03-29T09:50:00Z'),
  title: `${odd}: Talk`,
  description: `First line\nDESCRIPTION:not a property\r\n${'é'.repeat(90)}`,
  location: 'https://rooms.example/r/1',
  url: 'https://rooms.example/r/1',
  organizer: { name: 'Fernhollow', email: 'bookings@fernhollow.example' },
  attendees: [{ name: odd, email: 'client@place.example', accepted: true }],
}

describe('calendar entries', () => {
  const text = calendarText(entry)
  const calendar = new ICAL.Component(ICAL.parse(text))
  const event = calendar.getFirstSubcomponent('vevent')

  it('come back from a reader as they went in', () => {
    expect(calendar.getFirstPropertyValue('method')).toBe('REQUEST')
    expect(event?.getFirstPropertyValue('summary')).toBe(entry.title)
    expect(event?.getFirstPropertyValue('description')).toBe(entry.description.replace('\r\n', '\n'))
    expect(event?.getFirstPropertyValue('sequence')).toBe(3)
    expect(String(event?.getFirstPropertyValue('dtstart'))).toBe('2027-03-29T09:30:00Z')
    expect(String(event?.getFirstPropertyValue('dtend'))).toBe('2027-03-29T09:50:00Z')
    expect(event?.getFirstProperty('attendee')?.getFirstParameter('cn').replaceAll('^\'', '"').replaceAll('\'', '"')).toBe(odd)
  })

  it('are lines of at most 75 octets that end with CRLF', () => {
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
    expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/)
  })

  it('cannot be given properties by what people write', () => {
    const names = text.replace(/\r\n /g, '').split('\r\n').map(line => line.split(/[:;]/)[0])
    expect(names.filter(name => name === 'DESCRIPTION')).toHaveLength(1)
  })

  it('are tentative before the session is confirmed, and a file to keep names nobody', () => {
    const file = calendarText({ ...entry, method: 'PUBLISH', tentative: true })
    expect(file).toContain('STATUS:TENTATIVE')
    expect(file).not.toContain('ATTENDEE')
  })

  it('take a session back', () => {
    expect(calendarText({ ...entry, method: 'CANCEL' })).toMatch(/METHOD:CANCEL[\s\S]*STATUS:CANCELLED/)
  })
})
