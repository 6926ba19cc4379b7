import { placeWords, formatDurations } from '../../core/catalogue/event-type'
import { markdown } from '../../core/markdown'
import type { EventTypePage, WorkspacePage } from '../../core/views/client'
import { type EventType, isOpen } from './load'
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
  const { settings } = eventType
  const ids = new Set(eventType.chairs.flatMap(chair => chair.hosts.map(host => host.id)))
  const zones = hosts.filter(host => ids.has(host.id)).map(host => host.timeZone)
  const countIn = (zone: string) => zones.filter(candidate => candidate === zone).length
  const choosable = eventType.chairs.filter(chair => chair.policy === 'client').flatMap(chair => chair.hosts)
  return {
    eventType: {
      slug: eventType.slug,
      name: settings.name,
      description: settings.description || settings.summary || formatDurations(settings.durations),
      descriptionHtml: markdown(settings.description || settings.summary || formatDurations(settings.durations)),
      colour: settings.colour,
      guests: settings.guests,
      durations: settings.durations,
      timeZone: settings.timeZone,
      seats: settings.seats,
      approval: settings.approval,
      leadTimeMinutes: settings.leadTimeMinutes,
      places: settings.places.map(place => ({ key: place.key, kind: place.kind, label: place.label || placeWords[place.kind] })),
      questions: settings.questions,
      ...(choosable.length > 0 ? { hosts: choosable.map(({ id, name }) => ({ id, name })) } : {}),
    },
    workspace: { slug: workspace.slug, name: workspace.name, looks: workspace.looks },
    hostZones: [...new Set(zones)].sort(
      (a, b) => countIn(b) - countIn(a) || Number(b === settings.timeZone) - Number(a === settings.timeZone),
    ),
    version: eventType.version,
  }
}
