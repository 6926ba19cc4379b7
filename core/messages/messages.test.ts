import { describe, expect, it } from 'vitest'
import { formatInputFault } from '../catalogue/input'
import { instantToSeconds } from '../time/civil'
import { findMessageFaults, type MessageFields, occasions, presets, renderMessage as renderWording } from '.'
import { type Audience, audiences, type Occasion } from './occasions'
import { phonePresets, type Wording } from './presets'

const fields = (change: Partial<MessageFields> = {}): MessageFields => ({
  workspace: { name: 'Fernhollow', colour: '#2E6B4F' },
  eventType: { name: 'Triage', page: 'https://book.example/f/triage' },
  client: { name: 'Ana', email: 'ana@place.example', phone: '' },
  booking: { client: 'Ana', people: 1, page: 'https://book.example/bookings/t', canMove: true, canCancel: true, isRequest: false, heldUntil: null },
  actor: 'Ana', byTeam: false,
  session: { page: 'https://book.example/desk/sessions/s' },
  hostNames: ['Ottoline Marsh'],
  hasOtherHosts: false, payment: null, reason: '', remindersPage: '', listPage: '', guests: { all: [], added: [], removed: [] },
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

const kindOf = (occasion: Occasion, audience: Audience) => ({ occasion, audience, by: 'mail' as const })
const renderMessage = (occasion: Occasion, audience: Audience, given: MessageFields) =>
  renderWording(kindOf(occasion, audience), given).message

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
          answers: [{ key: 'a', label: nasty, text: `${nasty}\nsecond line`, kind: 'paragraph' }],
        }),
      )
      expect(html).not.toContain('<img')
      expect(html).not.toContain('href="https://evil.example')
      expect(subject).not.toMatch(/[\r\n]/)
      expect(subject + html).not.toContain('onerror=alert(1)> Fernhollow')
    }
  })
})

describe('the wording of a workspace', () => {
  const faultsOf = (text: string, questionKeys: string[] = ['material']) =>
    findMessageFaults(kindOf('booked', 'client'), { subject: 'x', text }, questionKeys).map(({ line, fault }) => `${line}: ${formatInputFault(fault)}`)

  const worded = occasions.flatMap(occasion => audiences.map(audience => [occasion, audience] as const))
    .filter(([occasion, audience]) => presets[occasion][audience].subject !== '')
  it.each(worded)('may be what the preset says: %s to the %s', (occasion, audience) => {
    expect(findMessageFaults(kindOf(occasion, audience), presets[occasion][audience], [])).toEqual([])
  })

  it.each([
    ['Hello,\n\nyour {{ answers.materal }}', '3: There is no field “answers.materal”. Did you mean {{ answers.material }}?'],
    ['{{ client.name }}\n{% for letter in client.name %}{{ letter }}{% endfor %}', '2: “client.name” is not a list: loop over guests.names or answerList'],
    ['{% for a in answerList %}\n{% for b in guests.names %}{% endfor %}{% endfor %}', '2: A loop cannot stand within a loop'],
    ['{% if place == "x" %}\n{% for a in answerList %}{% for b in answerList %}x{% endfor %}{% endfor %}{% endif %}', '2: A loop cannot stand within a loop'],
    ['{% for i in (1..9) %}x{% endfor %}', '1: Ranges such as (1..5) cannot be used here'],
    ['\n{% for a in answerList %}{% if a.label == "x" %}{{ a.wrong }}{% endif %}{% endfor %}', '2: There is no field “a.wrong”. Did you mean {{ a.label }}?'],
    ['{% for a in answerList %}x{% else %}{{ nope }}{% endfor %}', '1: There is no field “nope”'],
    ['Hello\n{% if room.link %}the link', '2: “if” is not closed: write {% endif %} where it ends'],
    ['{{ session.page }}', '1: There is no field “session.page”'],
    ['{% if room.link == "x" %}\n\n{{ client.name | shout }}{% endif %}', '3: There is no filter “shout”'],
    [`{{ client.name${' | append: client.name | replace: "W", "WWWWWWWWWW"'.repeat(3)} }}`, '1: The template produces too much text'],
    ['{% if client.name %}'.repeat(30) + '{% endif %}'.repeat(30), '1: Too many conditions within conditions'],
  ])('is refused with its line and the reason: %s', (text, reason) => {
    expect(faultsOf(text)[0]).toContain(reason.replace('. Did you mean {{ a.label }}?', ''))
  })

  it('knows the questions of its event type, and prints nothing for one that was not answered', () => {
    const own = { subject: 'x', text: '[{{ answers.material }}][{{ answers.since }}]{% if answers.since %} since{% endif %}{% if room.link %} Open {{ room.link }}{% endif %}' }
    expect(findMessageFaults(kindOf('booked', 'client'), own, ['material', 'since'])).toEqual([])
    expect(faultsOf(own.text)[0]).toContain('answers.since')
    const { message, fault } = renderWording(kindOf('booked', 'client'), fields({ answers: [{ key: 'material', label: 'Of what', text: 'paper', kind: 'text' }] }), own)
    expect(fault).toBeNull()
    expect(message.text).toBe('[paper][] Open https://rooms.example/r/1\n')
    expect(message.html).toContain('Open <a href="https://rooms.example/r/1"')
  })

  it('gives way to the preset where it cannot be rendered or is empty', () => {
    for (const own of [{ subject: 'x', text: '{{ nope }}' }, { subject: '{% if room.follows %}x{% endif %}', text: 'x' }, { subject: 'x', text: ' {% if room.follows %}x{% endif %}' }]) {
      const { message, fault } = renderWording(kindOf('booked', 'client'), fields(), own)
      expect(fault).not.toBeNull()
      expect(message).toEqual(renderMessage('booked', 'client', fields()))
    }
  })

  it('has its own addresses as links, and those that clients type as text', () => {
    const own = { subject: 'x', text: 'Read https://book.example/prepare, {{ client.name }}.\n\nhttps://book.example/?for={{ client.name }}\n\n{{ details }} {{ client.name }}' }
    const { html, text } = renderWording(kindOf('booked', 'client'), fields({ client: { name: 'https://evil.example', email: '', phone: '' } }), own).message
    expect(html.match(/href="[^"]*"/g)).toEqual(['href="https://book.example/prepare"', 'href="https://rooms.example/r/1"'])
    expect(text).toContain('Passcode: 987\n\nhttps://evil.example')
  })
})

describe('a phone text', () => {
  const rendered = (text: string) => renderWording({ occasion: 'own', audience: 'client', by: 'phone' }, fields(), { subject: '', text }).message

  it('is the words alone, and gives way to short ones', () => {
    expect(rendered('{{ eventType.name }} at {{ when.time }}\n\n{{ details }}')).toMatchObject({ subject: '', html: '', text: expect.stringMatching(/^Triage at 15:00\nWhen: /) })
    expect(rendered('{{ nope }}').text).toMatch(/^Fernhollow: Triage, Monday 29 March 2027 15:00 \(Kolkata\)\. Join: /)
  })

  it('needs words and no subject', () => {
    const faultsOf = (by: 'mail' | 'phone', wording: Wording) => findMessageFaults({ occasion: 'own', audience: 'client', by }, wording, []).map(({ part }) => part)
    expect(faultsOf('phone', { subject: '', text: 'x' })).toEqual([])
    expect(faultsOf('phone', { subject: '', text: ' ' })).toEqual(['text'])
    expect(faultsOf('mail', { subject: ' ', text: 'x' })).toEqual(['subject'])
    for (const audience of audiences) expect(findMessageFaults({ occasion: 'own', audience, by: 'phone' }, phonePresets[audience], [])).toEqual([])
  })
})
