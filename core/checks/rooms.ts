import { abilitiesFor } from '../rooms/options'
import type { Facts } from './facts'
import type { CheckAccount, CheckHost, Finding } from './finding'
import { roomLink } from './texts'

/** Checks of where rooms come from. */

const toConnections = { kind: 'go', to: '/desk/connections' } as const
const toPlace = { kind: 'open', panel: 'place' } as const

const isByVideo = ({ settings }: Pick<Facts, 'settings'>) => settings.places.some(place => place.kind === 'video')
const orderOf = ({ settings, roomWays }: Pick<Facts, 'settings' | 'roomWays'>) => settings.room.ways ?? roomWays.order

/** Accounts that rooms of some host's sessions may be made under. */
function accountsFor({ settings, roomWays }: Pick<Facts, 'settings' | 'roomWays'>, hostId: string): CheckAccount[] {
  const order = orderOf({ settings, roomWays })
  return roomWays.accounts.filter(account => (account.hostId === null ? order.includes('workspace') : account.hostId === hostId && order.includes('own')))
}

/** Accounts that this event type uses, each once. */
const accountsUsed = (facts: Facts) => [...new Set(facts.pool.flatMap(host => accountsFor(facts, host.id)))]

/** Whether some way leads to a room for a host's sessions. */
export function hasWayToRoom(facts: Pick<Facts, 'settings' | 'roomWays'>, host: Pick<CheckHost, 'id' | 'hasFixedRoom'>): boolean {
  const { settings, roomWays } = facts
  const order = orderOf(facts)
  return accountsFor(facts, host.id).some(({ state }) => state === 'works')
    || (order.includes('pattern') && roomWays.hasPattern) || (order.includes('fixed') && host.hasFixedRoom)
    || (order.includes('link') && settings.room.link !== '')
}

/** Hosts for whose sessions no way leads to a room. */
export function withoutVideo(facts: Facts): Finding[] {
  const { settings, pool, person } = facts
  if (!isByVideo(facts)) return []
  const without = pool.filter(host => !hasWayToRoom(facts, host))
  const isEverybody = without.length === pool.length
  return without.length === 0 ? [] : [{
    code: 'withoutVideo', severity: isEverybody && settings.places.every(place => place.kind === 'video') ? 'stops' : 'risky',
    values: { hosts: without.map(host => person(host.id)), isEverybody }, wayOut: toConnections,
  }]
}

/** Accounts that make no rooms at present, whether or not there is another way. */
export function troubledAccounts(facts: Facts): Finding[] {
  if (!isByVideo(facts)) return []
  return accountsUsed(facts).filter(({ state }) => state !== 'works').map(({ hostId, service, state }): Finding => ({
    code: 'accountTroubled', severity: 'risky', values: { host: hostId === null ? null : facts.person(hostId), service, state }, wayOut: toConnections,
  }))
}

/** What an account's service cannot do, and what the account is not allowed. */
export function beyondAccounts(facts: Facts): Finding[] {
  if (!isByVideo(facts)) return []
  const { settings, definition, person } = facts
  const accounts = accountsUsed(facts)
  const byService = new Map(accounts.map(account => [account.service, account]))
  const unable = [...byService.values()].flatMap(({ service, can }): Finding[] => {
    const abilities = abilitiesFor(settings.room.options).filter(ability => !can.includes(ability))
    return abilities.length === 0 ? [] : [{ code: 'optionsNotPossible', severity: 'look', values: { service, abilities }, wayOut: toPlace }]
  })
  const needed = { minutes: Math.max(...settings.durations), people: settings.seats + definition.chairs.length }
  const tooSmall = accounts.flatMap(account => (['minutes', 'people'] as const).flatMap((what): Finding[] => {
    const most = account[what]
    return most === null || most >= needed[what] ? [] : [{
      code: 'planTooSmall', severity: 'risky', wayOut: toConnections,
      values: { service: account.service, host: account.hostId === null ? null : person(account.hostId), what, most, needed: needed[what] },
    }]
  }))
  return [...tooSmall, ...unable]
}

/** Hosts whose rooms are made under somebody else, who alone opens them as host. */
export function underMainUser(facts: Facts): Finding[] {
  if (!isByVideo(facts) || !orderOf(facts).includes('workspace')) return []
  const { pool, person, roomWays } = facts
  const shared = roomWays.accounts.find(({ hostId, users, state }) => hostId === null && users !== null && state === 'works')
  const hosts = shared ? pool.filter(host =>
    !shared.users?.includes(host.id) && !accountsFor(facts, host.id).some(({ hostId, state }) => hostId === host.id && state === 'works')) : []
  return shared && hosts.length > 0 ? [{
    code: 'underMainUser', severity: 'look', values: { service: shared.service, hosts: hosts.map(host => person(host.id)) }, wayOut: toConnections,
  }] : []
}

/** A link in what clients read after booking, beside the one that each session gets by itself. */
export function secondLink(facts: Facts): Finding[] {
  const { settings } = facts
  const link = isByVideo(facts) ? roomLink.exec(`${settings.afterwards.text} ${settings.afterwards.address}`)?.[0] : undefined
  return link === undefined ? [] : [{ code: 'secondLink', severity: 'risky', values: { link }, wayOut: { kind: 'open', panel: 'afterwards' } }]
}
