import type { FaultBy } from '../faults'
import type { SessionCard } from '../views/desk'

/** Sessions whose video room fails, gathered by what they wait for. */
export interface FailingGroup {
  key: string
  fault: FaultBy | null
  /** Whose account is missing, where that is the cause. */
  hosts: SessionCard['hosts']
  /** Ascending. */
  cards: SessionCard[]
}

/** Whether a room fails, be it that it is just being tried again. */
export function isFailing({ state, fault }: Pick<NonNullable<SessionCard['room']>, 'state' | 'fault'>): boolean {
  return state === 'failing' || (state === 'making' && fault !== null)
}

/** One group for each cause: a host's missing account however many sessions wait for it, or a service that does not answer. */
export function groupFailingRooms(cards: readonly SessionCard[]): FailingGroup[] {
  const groups = new Map<string, FailingGroup>()
  for (const card of cards) {
    if (!card.room || !isFailing(card.room)) continue
    const { fault } = card.room
    const isAccount = fault?.fault.code === 'noVideoAccount'
    const key = JSON.stringify(isAccount ? ['account', card.hosts.map(host => host.id).sort()] : [fault?.by, fault?.fault.code])
    const group = groups.get(key) ?? { key, fault, hosts: isAccount ? card.hosts : [], cards: [] }
    group.cards.push(card)
    groups.set(key, group)
  }
  return [...groups.values()]
}
