import { DAY, formatInstant } from '../../core/time/civil'
import type { AccountView } from '../../core/views/calendars'
import type { OwnApplication } from './application'
import type { TestCalendar } from './calendars'
import { call, post, signIn } from './http'
import { addMember, makeWorkspace, type TestWorkspace } from './workspace'

/** Hosts who connect calendars, and what clients can book with them then. */

export interface CalendarHost {
  workspace: TestWorkspace
  hostId: string
  headers: Record<string, string>
}

export function calendarHosts(own: OwnApplication) {
  /** A day on which everybody is open. */
  const day = Math.floor(Date.now() / 1000 / DAY) * DAY + 10 * DAY
  const at = (hours: number) => formatInstant(day + hours * 3600)
  return {
    day,
    at,
    /** A workspace with one host, who signs in. */
    newHost: async (): Promise<CalendarHost> => {
      const workspace = await makeWorkspace(own.context, { hosts: 1, zone: 'UTC', eventTypes: [{
        slug: 'talk',
        settings: { durations: [60], startEveryMinutes: 60, bufferAfterMinutes: 0, places: [{ key: 'here', kind: 'address', label: 'here', detail: 'Pátio 1' }] },
      }] })
      const hostId = workspace.hosts[0]?.id ?? ''
      return { workspace, hostId, headers: await signIn(own.url, await addMember(own.context, workspace, 'host', hostId)) }
    },
    connect: ({ hostId, headers }: CalendarHost, { address, user, password }: TestCalendar) =>
      post(`${own.url}/api/desk/calendar-accounts`, { kind: 'caldav', hostId, address, user, password }, headers),
    look: async ({ headers }: CalendarHost, account: AccountView) =>
      (await post(`${own.url}/api/desk/calendar-accounts/${account.id}/look`, {}, headers)).body as AccountView,
    changeCalendar: ({ headers }: CalendarHost, id: string, change: object) => call(`${own.url}/api/desk/calendars/${id}`, {
      method: 'PATCH', headers: { ...headers, 'content-type': 'application/json' }, body: JSON.stringify(change),
    }),
    /** The hours of a day at which a session can be booked. */
    openHours: async ({ workspace }: CalendarHost, of = at(0)): Promise<number[]> => {
      const date = of.slice(0, 10)
      const { body } = await call(`${own.url}/api/public/${workspace.slug}/talk/openings?from=${date}&to=${date}&timeZone=UTC`)
      return (body as { openings: { start: string }[] }).openings.map(({ start }) => Number(start.slice(11, 13)))
    },
    allBut: (...taken: number[]) => Array.from({ length: 24 }, (_, hour) => hour).filter(hour => !taken.includes(hour)),
  }
}
