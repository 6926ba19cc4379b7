import { describe, expect, it } from 'vitest'
import { occasions } from './occasions'
import { presets } from './presets'
import { type Added, messageTimeline, type Moment } from './timeline'

const sent = {
  isEventType: true, reminders: [], approval: false, guests: true, people: false, paid: false, video: true, observers: false, own: [],
}
const kinds = (moments: { moment: Moment }[]) => moments.map(({ moment }) => moment.kind)
const own = (name: string, moment: Added['moment'], to: Added['to'] = ['client']): Added =>
  ({ id: name, name, moment, by: 'mail', to })

describe('what is sent', () => {
  it('names every message that there are words for, to those whom its changes name', () => {
    const all = messageTimeline({ ...sent, isEventType: false, approval: true, people: true, paid: true })
    const named = all.flatMap(({ rows }) => rows.flatMap(({ occasion, readers }) =>
      (['client', 'host'] as const).filter(side => readers[side].length > 0).map(side => `${occasion} ${side}`)))
    const worded = occasions.flatMap(occasion => occasion === 'own' ? []
      : (['client', 'host'] as const).filter(side => presets[occasion][side].subject !== '').map(side => `${occasion} ${side}`))
    expect(named.toSorted()).toEqual(worded.toSorted())
    expect(all.flatMap(({ rows }) => rows).find(({ occasion }) => occasion === 'handedAway')?.readers).toEqual({ client: [], host: ['formerHosts'] })
  })

  it('stands in the order of a booking’s life, what comes first of what is before it first', () => {
    const moments = messageTimeline({
      ...sent, reminders: [{ kind: 'before', minutes: 60 }, { kind: 'before', minutes: 1440 }],
      own: [
        own('evening', { kind: 'dayBefore', at: '18:00' }), own('thanks', { kind: 'after', minutes: 120, if: 'attended' }),
        own('early', { kind: 'before', minutes: 10_000 }), own('sorry', { kind: 'on', occasion: 'missed' }), own('keys', { kind: 'on', occasion: 'moved' }, ['hosts']),
      ],
    })
    expect(kinds(moments)).toEqual(['booked', 'link', 'own', 'reminder', 'own', 'reminder', 'own', 'missed', 'changed'])
    expect(moments.flatMap(({ rows }) => rows.flatMap(row => row.own?.name ?? []))).toEqual(['early', 'evening', 'thanks', 'sorry', 'keys'])
  })

  it('leaves out what an event type does not have', () => {
    const few = messageTimeline({ ...sent, guests: false, video: false, observers: true })
    expect(kinds(few)).toEqual(['booked', 'changed'])
    expect(few[0]?.rows[0]?.readers).toEqual({ client: ['client'], host: ['hosts', 'observers'] })
    expect(few.flatMap(({ rows }) => rows.map(({ occasion }) => occasion))).not.toContain('guestAdded')
    expect(kinds(messageTimeline({ ...sent, isEventType: false, own: [own('x', { kind: 'on', occasion: 'declined' })] }))).toEqual(['booked', 'link', 'before', 'changed', 'asked'])
  })
})
