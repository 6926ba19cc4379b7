import { createHash } from 'node:crypto'
import { z } from 'zod'
import { type Outside, parseAddress } from '../../outside'
import { type CalendarAccess, CalendarFault } from '..'
import { hostOf, isSuccess, request } from '../requests'

/** A calendar that somebody publishes at an address: one text, read as a whole. */

const stateSchema = z.strictObject({ etag: z.string().nullable(), modified: z.string().nullable() })

/** Throws CalendarFault. */
export function feedAccess(outside: Outside, address: string): CalendarAccess {
  const host = hostOf(address.replace(/^webcals?:/i, 'https:'))
  const calendar = { href: '', name: nameOf(address), writable: false, timeZone: null, mark: null }
  return {
    describe: async () => ({ label: host, addresses: [], calendars: [calendar] }),
    isUnchanged: () => false,
    async changesSince(_calendar, state) {
      const known = state === null ? null : stateSchema.safeParse(JSON.parse(state)).data
      const answer = await request(outside, address, {
        headers: {
          accept: 'text/calendar, */*;q=0.5',
          ...(known?.etag ? { 'if-none-match': known.etag } : {}),
          ...(known?.modified ? { 'if-modified-since': known.modified } : {}),
        },
      }, status => isSuccess(status) || (status === 304 && known !== null))
      if (answer.status === 304) return null
      if (!/BEGIN\s*:\s*VCALENDAR/i.test(answer.text)) throw new CalendarFault('notACalendar', host)
      const next = { etag: answer.headers.get('etag'), modified: answer.headers.get('last-modified') }
      return {
        isWhole: true, removed: [], hasMore: false, state: JSON.stringify(next),
        // Not every server names its answers, and some name another one alike.
        objects: [{ href: '', etag: createHash('sha256').update(answer.text).digest('base64url'), text: answer.text }],
      }
    },
    load: async () => [],
    listWithin: null,
    writing: null,
  }
}

/** The last part of the path, which often is a name. The address itself is a secret. */
function nameOf(address: string): string {
  try {
    const part = decodeURIComponent(parseAddress(address).pathname.split('/').filter(Boolean).at(-1) ?? '').replace(/\.ics$/i, '')
    return /^[\p{L} _-]{3,40}$/u.test(part) ? part.replaceAll(/[_-]+/g, ' ').replace(/^./, letter => letter.toUpperCase()) : 'Subscribed calendar'
  } catch {
    return 'Subscribed calendar'
  }
}
