import { describe, expect, it } from 'vitest'
import { instantToSeconds } from '../time/civil'
import { type MessageFields, occasions, renderMessage } from '.'

const fields = (change: Partial<MessageFields> = {}): MessageFields => ({
  workspace: { name: 'Fernhollow' },
  eventType: { name: 'Triage', page: 'https://book.example/f/triage' },
  client: { name: 'Ana', email: 'ana@place.example', phone: '' },
  booking: { client: 'Ana', page: 'https://book.example/bookings/t', canMove: true, canCancel: true, isRequest: false, heldUntil: null },
  actor: 'Ana',
  session: { page: 'https://book.example/desk/sessions/s' },
  hostNames: ['Ottoline Marsh'],
  hasOtherHosts: false, reason: '', remindersPage: '', listPage: '', guests: { all: [], added: [], removed: [] },
  place: 'By video', placeNote: '',
  room: { expected: true, link: 'https://rooms.example/r/1', number: '123 456', passcode: '987', underMainUser: false },
  answers: [],
  when: {
    start: instantToSeconds('2027-03-29T09:30:00Z'),
    end: instantToSeconds('2027-03-29T09:50:00Z'),
    now: instantToSeconds('2027-03-20T09:00:00Z'),
    readerZone: 'Asia/Kolkata',
    otherZone: 'Europe/Lisbon',
    locale: 'en-GB', other: null,
  },
  ...change,
})

describe('messages', () => {
  it('say the moment in the reader’s zone first, the other beside it, and the clock change between', () => {
    const { subject, text } = renderMessage('booked', 'client', fields())
    expect(subject).toBe('Triage, Monday 29 March 2027 15:00')
    expect(text).toContain('When: Monday 29 March 2027, 15:00 to 15:20 Kolkata time')
    expect(text).toContain('For your host: Monday 29 March 2027, 10:30 to 10:50 Lisbon time')
    expect(text).toContain('Lisbon moves its clocks forward by an hour on Sunday 28 March 2027')
  })

  it('give the link, or say that it follows', () => {
    expect(renderMessage('booked', 'client', fields()).text).toContain('Link: https://rooms.example/r/1')
    const without = renderMessage('booked', 'client', fields({ room: { expected: true, link: '', number: '', passcode: '', underMainUser: false } }))
    expect(without.text).toContain('The video link is still being made')
    expect(without.text).not.toContain('Link:')
  })

  it('of a move say the time before in the reader’s zone, and who hosts it where that has changed', () => {
    const other = { start: instantToSeconds('2027-03-28T09:30:00Z'), end: instantToSeconds('2027-03-28T09:50:00Z') }
    const moved = (hasOtherHosts: boolean) => renderMessage('moved', 'client', fields({ hasOtherHosts, when: { ...fields().when, other } })).text
    expect(moved(false)).toContain('The time before was Sunday 28 March 2027, 15:00 to 15:20 Kolkata time')
    expect(moved(false)).not.toContain('You now meet')
    expect(moved(true)).toContain('You now meet Ottoline Marsh.')
  })

  it('of a change of guests say who comes and who no longer does', () => {
    const guests = { all: ['Bo (bo@place.example)'], added: ['Bo (bo@place.example)'], removed: ['cai@place.example'] }
    const toClient = renderMessage('guestsChanged', 'client', fields({ guests })).text
    expect(toClient).toContain('You have changed who comes with you to Triage with Ottoline Marsh.')
    expect(toClient).toContain('Now invited: Bo (bo@place.example). No longer invited: cai@place.example.')
    const toHost = renderMessage('guestsChanged', 'host', fields({ guests, actor: 'Ottoline Marsh' })).text
    expect(toHost).toContain('Ottoline Marsh has changed who comes with Ana to Triage.')
    expect(toHost).toContain('Guests: Bo (bo@place.example)')
  })

  it.each([[true, true, 'See, move or cancel this'], [true, false, 'See or move this'], [false, true, 'See or cancel this'], [false, false, 'See this']])(
    'offer what can still be done: move %s, cancel %s', (canMove, canCancel, words) => {
      expect(renderMessage('booked', 'client', fields({ booking: { ...fields().booking, canMove, canCancel } })).text).toContain(words)
    },
  )

  it('of a request say until when it waits, unless that is its start', () => {
    const asked = (heldUntil: string) =>
      renderMessage('awaitingApproval', 'host', fields({ booking: { ...fields().booking, isRequest: true, heldUntil: instantToSeconds(heldUntil) } })).text
    expect(asked('2027-03-21T09:00:00Z')).toContain('expires on Sunday 21 March 2027, 14:30 Kolkata time')
    expect(asked('2027-03-29T09:30:00Z')).not.toContain('expires')
  })

  it.each(occasions)('keep what people write as text (%s)', (occasion) => {
    const nasty = '<img src=x onerror=alert(1)> {{ workspace.name }}'
    for (const audience of ['client', 'host'] as const) {
      const { html, subject } = renderMessage(
        occasion,
        audience,
        fields({
          client: { name: nasty, email: 'a@b.example', phone: '' },
          reason: 'See: https://evil.example',
          answers: [{ label: nasty, text: `${nasty}\nsecond line`, kind: 'paragraph' }],
        }),
      )
      expect(html).not.toContain('<img')
      expect(html).not.toContain('href="https://evil.example')
      expect(subject).not.toMatch(/[\r\n]/)
      expect(subject + html).not.toContain('onerror=alert(1)> Fernhollow')
    }
  })
})
