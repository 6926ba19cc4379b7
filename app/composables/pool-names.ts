import { texts } from '~/locales/rotation'
import type { PoolView } from '~~/core/views/rotation'

/** How screens call a pool. */

/** The group's name; a chair goes by its event type, and by its own name where others may be told apart by it. */
export function poolName({ kind, name, usedBy: [first] }: Pick<PoolView, 'kind' | 'name' | 'usedBy'>): string {
  return kind === 'group' || !first ? name : `${first.name}: ${name}`
}

export function poolSubtitle({ kind, policy, hosts, usedBy }: PoolView): string {
  return kind === 'group' ? texts.groupUsedBy(hosts.length, usedBy.map(eventType => eventType.name)) : texts[policy]
}
