import { clientEventType } from '../../core/catalogue/event-type-page'
import type { EventTypePage, WorkspacePage } from '../../core/views/client'
import { LRUCache } from 'lru-cache'
import { DAY } from '../../core/time/civil'
import type { Context } from '../context'
import { loadHostsTime, WIDE } from '../hosts-time'
import { definitionOf, type EventType, hostIdsOf, isOpen } from './load'
import { nextOpening } from './openings'
import { stampOf, type WorkspaceSnapshot } from './snapshot'

/** How far ahead the workspace's page looks for the next opening of each event type. */
const DAYS_SEARCHED = 60

/** Next openings by what they stand for: they hold until something changes or the minute is over. */
const nextOpenings = new LRUCache<string, (string | null)[]>({ max: 500 })

/** What clients see before they book: never a link, never a member's address. */

export async function workspacePage({ db, now }: Context, snapshot: WorkspaceSnapshot): Promise<WorkspacePage> {
  const { workspace, eventTypes, stated } = snapshot
  const listed = eventTypes.filter(eventType => isOpen(eventType) && eventType.listed)
  const span = { now: now(), from: now(), to: now() + DAYS_SEARCHED * DAY }
  const stamp = stampOf(snapshot, span.now)
  let next = nextOpenings.get(stamp)
  if (!next) {
    const time = await loadHostsTime(db, workspace.id, [...new Set(listed.flatMap(hostIdsOf))], { ...span, ...WIDE }, stated)
    next = listed.map(eventType => nextOpening(eventType, time, span)?.start ?? null)
    nextOpenings.set(stamp, next)
  }
  const starts = next
  return {
    workspace: { slug: workspace.slug, name: workspace.name, about: workspace.about, timeZone: workspace.timeZone, looks: workspace.looks },
    eventTypes: listed.map(({ slug, settings }, index) => ({
      slug,
      name: settings.name,
      summary: settings.summary,
      durations: settings.durations,
      nextOpening: starts[index] ?? null,
    })),
  }
}

export function eventTypePage({ workspace, hosts }: WorkspaceSnapshot, eventType: EventType): EventTypePage {
  const ids = new Set(eventType.chairs.flatMap(chair => chair.hosts.map(host => host.id)))
  const zones = hosts.filter(host => ids.has(host.id)).map(host => host.timeZone)
  const countIn = (zone: string) => zones.filter(candidate => candidate === zone).length
  return {
    eventType: clientEventType(definitionOf(eventType)),
    workspace: { slug: workspace.slug, name: workspace.name, looks: workspace.looks },
    hostZones: [...new Set(zones)].sort(
      (a, b) => countIn(b) - countIn(a) || Number(b === eventType.settings.timeZone) - Number(a === eventType.settings.timeZone),
    ),
    version: eventType.version,
  }
}
