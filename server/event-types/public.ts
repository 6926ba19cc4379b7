import { clientEventType } from '../../core/catalogue/event-type-page'
import type { EventTypePage, WorkspacePage } from '../../core/views/client'
import { definitionOf, type EventType, isOpen } from './load'
import type { WorkspaceSnapshot } from './snapshot'

/** What clients see before they book: never a link, never a member's address. */

export function workspacePage({ workspace, eventTypes }: WorkspaceSnapshot): WorkspacePage {
  const listed = eventTypes.filter(eventType => isOpen(eventType) && eventType.listed)
  return {
    workspace: { slug: workspace.slug, name: workspace.name, about: workspace.about, looks: workspace.looks },
    eventTypes: listed.map(({ slug, settings }) => ({
      slug,
      name: settings.name,
      summary: settings.summary,
      durations: settings.durations,
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
