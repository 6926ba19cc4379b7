import { clientEventType } from '../../core/catalogue/event-type-page'
import type { EventTypePage, HostPage, WorkspacePage } from '../../core/views/client'
import { LRUCache } from 'lru-cache'
import { DAY } from '../../core/time/civil'
import type { Context } from '../context'
import { loadHostsTime, WIDE } from '../hosts-time'
import { bookableWith } from './bookable-with'
import { chairToPick, definitionOf, type EventType, holdsOf, hostIdsOf } from './load'
import { nextOpening } from './openings'
import { openEventTypes, stampOf, type WorkspaceSnapshot } from './snapshot'

/** How far ahead the workspace's page looks for the next opening of each event type. */
const DAYS_SEARCHED = 60

/** Next openings by what they stand for: they hold until something changes or the minute is over. */
const nextOpenings = new LRUCache<string, (string | null)[]>({ max: 500 })

/** What clients see before they book: never a link, never a member's address. */

export async function workspacePage(context: Context, snapshot: WorkspaceSnapshot): Promise<WorkspacePage> {
  const { now } = context
  const { workspace, stated } = snapshot
  const listed = openEventTypes(snapshot).filter(eventType => eventType.listed)
  const span = { now: now(), from: now(), to: now() + DAYS_SEARCHED * DAY }
  const stamp = stampOf(snapshot, span.now)
  let next = nextOpenings.get(stamp)
  if (!next) {
    const hostIds = [...new Set(listed.flatMap(hostIdsOf))]
    const time = await loadHostsTime(context, workspace.id, hostIds, { ...span, ...WIDE, holds: holdsOf(listed) }, stated)
    next = listed.map(eventType => nextOpening(eventType, time, span)?.start ?? null)
    nextOpenings.set(stamp, next)
  }
  const starts = next
  return {
    workspace: workspaceOf(workspace),
    eventTypes: listed.map((eventType, index) => rowOf(eventType, starts[index] ?? null)),
  }
}

const workspaceOf = ({ slug, name, about, timeZone, looks }: WorkspaceSnapshot['workspace']) => ({ slug, name, about, timeZone, looks })

function rowOf({ slug, settings: { name, summary, durations, price } }: EventType, nextOpening: string | null): WorkspacePage['eventTypes'][number] {
  return { slug, name, summary, durations, ...(price ? { price } : {}), nextOpening }
}

/** What can be booked with a host who has a page of their own; null where nobody has one at this address. */
export async function hostPage(context: Context, snapshot: WorkspaceSnapshot, slug: string): Promise<HostPage | null> {
  const { now } = context
  const { workspace, hosts, stated } = snapshot
  const host = hosts.find(candidate => candidate.slug === slug && candidate.leftAt === null)
  if (!host) return null
  const offered = bookableWith(openEventTypes(snapshot), host.id)
  const span = { now: now(), from: now(), to: now() + DAYS_SEARCHED * DAY }
  const hostIds = [...new Set(offered.flatMap(hostIdsOf))]
  const time = await loadHostsTime(context, workspace.id, hostIds, { ...span, ...WIDE, holds: holdsOf(offered) }, stated)
  const { id, name, about, picture, timeZone } = host
  return {
    workspace: workspaceOf(workspace),
    host: { id, name, about, picture, timeZone },
    eventTypes: offered.map(eventType => ({
      ...rowOf(eventType, nextOpening(eventType, time, { ...span, chosen: chairToPick(eventType, id, true) })?.start ?? null),
      isChoice: clientEventType(definitionOf(eventType)).hosts?.some(choice => choice.id === id) ?? false,
    })),
  }
}

export function eventTypePage({ workspace, hosts, textsClients }: WorkspaceSnapshot, eventType: EventType): EventTypePage {
  const ids = new Set(eventType.chairs.flatMap(chair => chair.hosts.map(host => host.id)))
  const zones = hosts.filter(host => ids.has(host.id)).map(host => host.timeZone)
  const countIn = (zone: string) => zones.filter(candidate => candidate === zone).length
  return {
    eventType: withDetails(clientEventType(definitionOf(eventType), textsClients.has(null) || textsClients.has(eventType.id)), hosts),
    workspace: { slug: workspace.slug, name: workspace.name, looks: workspace.looks },
    hostZones: [...new Set(zones)].sort(
      (a, b) => countIn(b) - countIn(a) || Number(b === eventType.settings.timeZone) - Number(a === eventType.settings.timeZone),
    ),
    version: eventType.version,
  }
}

/** The hosts whom clients may choose, with their texts and pictures. */
function withDetails(eventType: EventTypePage['eventType'], known: WorkspaceSnapshot['hosts']): EventTypePage['eventType'] {
  if (!eventType.hosts) return eventType
  return {
    ...eventType,
    hosts: eventType.hosts.map((choice) => {
      const host = known.find(candidate => candidate.id === choice.id)
      if (!host) return choice
      const { timeZone, about, picture } = host
      return { ...choice, timeZone, ...(about ? { about } : {}), ...(picture ? { picture } : {}) }
    }),
  }
}
