import { formatCount, formatList } from '../time/format'
import { intersect, unionOf } from '../time/intervals'
import { longest, type Facts } from './facts'
import type { Finding } from './finding'

/** Checks of who sits in the chairs. */

const toChairs = { kind: 'open', words: 'Change the hosts', panel: 'chairs' } as const

/** A host whose hours leave no session, alone or together with the other chairs. */
export function hostWithoutCommonHours({ definition: { chairs }, settings, hoursOf, firstName }: Facts): Finding[] {
  const shortest = Math.min(...settings.durations) * 60
  return chairs.flatMap((chair, index) => {
    const others = chairs.filter((_, other) => other !== index).map(other => unionOf(other.hosts.map(host => hoursOf(host.id))))
    const alone = chair.hosts.filter((host) => {
      const common = others.reduce((all, next) => intersect(all, next), hoursOf(host.id))
      return longest(common) < shortest
    })
    if (alone.length === 0) return []
    const all = alone.length === chair.hosts.length
    const names = formatList(alone.map(host => firstName(host.id)))
    return [
      {
        code: 'hostWithoutCommonHours',
        severity: all ? ('stops' as const) : ('look' as const),
        words:
          chairs.length > 1
            ? `${names} (${chair.name}) ${alone.length === 1 ? 'has' : 'have'} no open hours in common with the other ${chairs.length === 2 ? 'chair' : 'chairs'}${all ? '' : ', so clients never meet them here'}.`
            : `${names} ${alone.length === 1 ? 'has' : 'have'} no open hours that this event type allows${all ? '' : ', so clients never meet them here'}.`,
        wayOut: toChairs,
      },
    ]
  })
}

/** A pool that is one in name only. */
export function poolOfOne({ definition: { chairs }, openings, firstName }: Facts): Finding[] {
  return chairs.flatMap((chair): Finding[] => {
    const [only] = chair.hosts
    if (chair.hosts.length === 1 && only) {
      return chair.policy === 'fairShare'
        ? []
        : [
            {
              code: 'poolOfOne',
              severity: 'look',
              words: `${chair.policy === 'client' ? 'Clients choose their host' : 'Hosts are asked in order'}, but ${firstName(only.id)} is the only one.`,
              wayOut: toChairs,
            },
          ]
    }
    const able = new Set(openings.flatMap(opening => opening.able[chair.id] ?? []))
    const [last] = able
    return openings.length === 0 || able.size !== 1 || last === undefined
      ? []
      : [
          {
            code: 'poolOfOne',
            severity: 'look',
            words: `Of ${formatCount(chair.hosts.length)} hosts only ${firstName(last)} can be booked in the next two weeks: everything falls to one.`,
            wayOut: toChairs,
          },
        ]
  })
}

export function withoutVideo({ settings, pool }: Facts): Finding[] {
  if (!settings.places.some(place => place.kind === 'video')) return []
  const without = pool.filter(host => !host.hasVideo)
  return without.length === 0
    ? []
    : [
        {
          code: 'withoutVideo',
          severity: 'risky',
          words: `${formatList(without.map(host => host.name.split(' ')[0] ?? ''))} ${without.length === 1 ? 'has' : 'have'} no video account: sessions that fall to ${without.length === 1 ? 'them' : 'these hosts'} get no link by themselves.`,
          wayOut: { kind: 'go', words: 'Connect accounts', to: '/desk/connections' },
        },
      ]
}

export function samePersonTwice({ definition: { chairs }, firstName }: Facts): Finding[] {
  const solo = chairs.filter(chair => chair.hosts.length === 1).map(chair => chair.hosts[0]?.id ?? '')
  const twice = solo.find((id, index) => solo.indexOf(id) !== index)
  return twice === undefined ? [] : [{
    code: 'samePersonTwice', severity: 'stops',
    words: `${firstName(twice)} is the only host of two chairs and cannot sit in both at once.`, wayOut: toChairs,
  }]
}

export function hastyApproval({ settings }: Facts): Finding[] {
  return !settings.approval || settings.leadTimeMinutes >= 240 ? [] : [{
    code: 'hastyApproval', severity: 'risky',
    words: 'Each booking waits for approval, but it may be made so shortly before that nobody has answered when it begins.',
    wayOut: { kind: 'set', words: 'Ask for a day’s notice', settings: { leadTimeMinutes: 1440 } },
  }]
}
