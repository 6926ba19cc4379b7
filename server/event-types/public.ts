import { and, asc, eq } from 'drizzle-orm'
import { placeWords, formatDurations } from '../../core/event-type/words'
import { markdown } from '../../core/markdown'
import type { EventTypePage, WorkspacePage } from '../../core/views/client'
import type { Database } from '../database/connection'
import { hosts } from '../database/schema'
import { type EventType, isOpen, loadEventTypes, type Workspace } from './load'

/** What clients are told before they book: never a link, never a member's address. */

export async function workspacePage(db: Database, workspace: Workspace): Promise<WorkspacePage> {
  const listed = (await loadEventTypes(db, workspace.id)).filter(type => isOpen(type) && type.listed)
  return {
    workspace: { slug: workspace.slug, name: workspace.name, about: workspace.about, looks: workspace.looks },
    eventTypes: listed.map(({ slug, settings }) => ({ slug, name: settings.name, summary: settings.summary, durations: settings.durations })),
  }
}

export async function eventTypePage(db: Database, workspace: Workspace, eventType: EventType): Promise<EventTypePage> {
  const { settings } = eventType
  const ids = new Set(eventType.chairs.flatMap(chair => chair.hosts.map(host => host.id)))
  const known = await db.select({ id: hosts.id, zone: hosts.timeZone }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspace.id))).orderBy(asc(hosts.name))
  const zones = known.filter(host => ids.has(host.id)).map(host => host.zone)
  const many = (zone: string) => zones.filter(candidate => candidate === zone).length
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
    hostZones: [...new Set(zones)].sort((a, b) => many(b) - many(a) || Number(b === settings.timeZone) - Number(a === settings.timeZone)),
    version: eventType.version,
  }
}
