import { intersect, unionOf } from '../time/intervals'
import { longest, type Facts } from './facts'
import type { Finding } from './finding'

/** Checks of who sits in the chairs. */

const toChairs = { kind: 'open', panel: 'chairs' } as const

/** A host whose hours leave no session, alone or together with the other chairs. */
export function hostWithoutCommonHours({ definition: { chairs }, settings, hoursOf, person }: Facts): Finding[] {
  const shortest = Math.min(...settings.durations) * 60
  return chairs.flatMap((chair, index): Finding[] => {
    const others = chairs.filter((_, other) => other !== index).map(other => unionOf(other.hosts.map(host => hoursOf(host.id))))
    const alone = chair.hosts.filter((host) => {
      const common = others.reduce((all, next) => intersect(all, next), hoursOf(host.id))
      return longest(common) < shortest
    })
    if (alone.length === 0) return []
    const isWholeChair = alone.length === chair.hosts.length
    return [{
      code: 'hostWithoutCommonHours',
      severity: isWholeChair ? 'stops' : 'look',
      values: {
        hosts: alone.map(host => person(host.id)),
        chair: others.length > 0 ? chair.name : null,
        otherChairs: others.length,
        isWholeChair,
      },
      wayOut: toChairs,
    }]
  })
}

/** A pool that is one in name only. */
export function poolOfOne({ definition: { chairs }, openings, person }: Facts): Finding[] {
  return chairs.flatMap((chair): Finding[] => {
    const [only] = chair.hosts
    if (chair.hosts.length === 1 && only) {
      return chair.policy === 'fairShare' ? [] : [{
        code: 'onlyHost', severity: 'look', values: { host: person(only.id), policy: chair.policy }, wayOut: toChairs,
      }]
    }
    const able = new Set(openings.flatMap(opening => opening.able[chair.id] ?? []))
    const [last] = able
    return openings.length === 0 || able.size !== 1 || last === undefined ? [] : [{
      code: 'poolOfOne', severity: 'look', values: { host: person(last), hosts: chair.hosts.length }, wayOut: toChairs,
    }]
  })
}

export function samePersonTwice({ definition: { chairs }, person }: Facts): Finding[] {
  const solo = chairs.filter(chair => chair.hosts.length === 1).map(chair => chair.hosts[0]?.id ?? '')
  const twice = solo.find((id, index) => solo.indexOf(id) !== index)
  return twice === undefined ? [] : [{
    code: 'samePersonTwice', severity: 'stops', values: { host: person(twice) }, wayOut: toChairs,
  }]
}

export function hastyApproval({ settings }: Facts): Finding[] {
  return !settings.approval || settings.leadTimeMinutes >= 240 ? [] : [{
    code: 'hastyApproval', severity: 'risky', values: {}, wayOut: { kind: 'set', settings: { leadTimeMinutes: 1440 } },
  }]
}
