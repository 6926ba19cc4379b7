import { describe, expect, it } from 'vitest'
import { sampleSettings } from '../../tests/support/samples'
import { plainPlan } from '../hours/plan'
import type { Chair, Settings } from './settings'
import { describeSettings, sentenceOf } from './sentence'

const pool: Chair = {
  id: 'c',
  name: 'Host',
  policy: 'fairShare',
  hosts: ['Ottoline Marsh', 'Teodor Vass'].map(name => ({ id: name, name, weight: 1 })),
  groups: [],
}
const settings: Settings = sampleSettings({
  durations: [45],
  startEveryMinutes: 15,
  bufferAfterMinutes: 10,
  hours: {
    mode: 'narrow',
    plan: {
      timeZone: 'Europe/Lisbon',
      weekly: [{ days: ['TU', 'WE', 'TH'], from: '09:00', to: '16:00' }],
      recurring: [],
      exceptions: [],
      valid: { from: null, to: null },
    },
  },
})

describe('the sentence', () => {
  it('describes an event type', () => {
    expect(describeSettings(settings, [pool], 'en-GB')).toBe(
      'Clients book 45 minutes on video with one of two hosts, by fair share, Tuesday to Thursday 9:00–16:00, at least 4 hours and at most 30 days ahead, starting every 15 minutes, with 10 minutes after kept free.',
    )
  })

  it('leaves out what is at its default and adds what is not', () => {
    const solo = { ...pool, hosts: pool.hosts.slice(0, 1) }
    const said = describeSettings(
      {
        ...settings,
        bufferAfterMinutes: 0,
        durations: [75, 120],
        approval: true,
        dailyLimit: 3,
        totalWeeklyLimit: 20,
        leadTimeMinutes: 0,
        horizon: { kind: 'open' },
        hours: { mode: 'hosts' },
      },
      [solo],
      'en-GB',
    )
    expect(said).toBe(
      'Clients book 75 minutes or 2 hours on video with Ottoline, whenever their hours allow, up to the last moment and as far ahead as they like, starting every 15 minutes, at most 3 a day for each host and 20 a week in total, each one approved by hand.',
    )
  })

  it('says what is special about its rooms, as long as there are any', () => {
    const options = { entry: 'open' as const, passcode: false, muted: true, cameras: { host: true, clients: false }, earlyMinutes: 5 }
    const room = { ...settings.room, options }
    expect(describeSettings({ ...settings, room }, [pool], 'en-GB')).toMatch(
      /kept free, anyone with the link let in, no passcode, muted on entry, clients’ cameras off at first, clients let in 5 minutes early\.$/,
    )
    const places = [{ key: 'studio', kind: 'address' as const, label: 'Studio', detail: '1 Paper Lane' }]
    expect(describeSettings({ ...settings, room, places }, [pool], 'en-GB')).toMatch(/kept free\.$/)
  })

  it('names the panel of each phrase', () => {
    expect(sentenceOf(settings, [pool], 'en-GB').flatMap(phrase => phrase.panel ?? [])).toEqual([
      'duration',
      'place',
      'chairs',
      'hours',
      'leadTime',
      'horizon',
      'startEvery',
      'buffers',
    ])
  })

  it('says what recurs, and single dates in words', () => {
    const plan = {
      ...plainPlan('Europe/Lisbon', []),
      recurring: [{ rrule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TH', start: '2027-01-07', from: '15:00', to: '16:30' }],
    }
    const said = describeSettings(
      { ...settings, hours: { mode: 'narrow', plan }, horizon: { kind: 'dates', from: '2027-03-01', to: null }, seats: 12, guests: false },
      [pool],
      'en-GB',
    )
    expect(said).toMatch(
      /every other Thursday 15:00–16:30, at least 4 hours and from 1 March 2027 on, .*, twelve seats a session, without guests\.$/,
    )
  })
})
