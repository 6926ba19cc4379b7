import { expect, it } from 'vitest'
import type { Outside, OutsideAnswer, OutsideRequest } from '../../outside'
import { feedAccess } from '.'

const calendar = (uid: string) => `BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:${uid}\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`
const address = 'https://calendar.example/holidays.ics'

/** A server that gives one answer after the other, and what it was asked. */
function served(...answers: { status?: number, text?: string, headers?: Record<string, string> }[]) {
  const asked: OutsideRequest[] = []
  const outside: Outside = {
    fetch: (url, request = {}): Promise<OutsideAnswer> => {
      asked.push(request)
      const { status = 200, text = '', headers = {} } = answers.shift() ?? {}
      return Promise.resolve({ status, text, url, headers: { get: name => headers[name] ?? null } })
    },
    close: () => Promise.resolve(),
  }
  const access = feedAccess(outside, address)
  const found = { href: '', name: '', writable: false, timeZone: null, mark: null }
  return { asked, look: (state: string | null = null) => access.changesSince(found, state) }
}

it('tells one text from another, also where the server names none of them', async () => {
  const { look } = served({ text: calendar('a') }, { text: calendar('a') }, { text: calendar('b') })
  const [first, same, other] = [await look(), await look(), await look()]
  expect(same?.objects[0]?.etag).toBe(first?.objects[0]?.etag)
  expect(other?.objects[0]?.etag).not.toBe(first?.objects[0]?.etag)
})

it('asks with what the last answer was named by, and takes a 304 for no change', async () => {
  const headers = { 'etag': '"1"', 'last-modified': 'Fri, 27 Nov 2026 09:00:00 GMT' }
  const { asked, look } = served({ text: calendar('a'), headers }, { status: 304 })
  const first = await look()
  expect(await look(first?.state ?? null)).toBeNull()
  expect(asked[1]?.headers).toMatchObject({ 'if-none-match': '"1"', 'if-modified-since': headers['last-modified'] })
})

it('refuses what is no calendar', async () => {
  await expect(served({ text: '<html>Sign in</html>' }).look()).rejects.toMatchObject({ fault: { code: 'notACalendar', host: 'calendar.example' } })
})
