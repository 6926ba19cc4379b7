import { appendFileSync, existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { freePort } from '../../scripts/run/ports'
import { type Started, startProcess, until } from '../../scripts/run/processes'

/** Calendar servers as a person uses them: Copperplate Calendar, and one that was not written here. */

export interface TestCalendar {
  /** What the person types to connect it. */
  address: string
  user: string
  password: string
  put: (name: string, text: string) => Promise<void>
  delete: (name: string) => Promise<void>
  /** The texts in it, by name. */
  list: () => Promise<Map<string, string>>
}

/** A new account of Copperplate Calendar with one calendar, and perhaps more. */
export async function copperplateCalendar(
  base: string, user: string, calendar = 'Work', timeZone = 'Europe/Lisbon', more: string[] = [],
): Promise<TestCalendar> {
  const account = { user, password: 'gold & leaf', name: user, email: `${user}@client.example`, timeZone, calendars: [calendar, ...more] }
  await expectOk(fetch(`${base}/accounts`, {
    method: 'POST', redirect: 'manual', headers: { 'content-type': 'application/json' }, body: JSON.stringify(account),
  }), 303)
  return davCalendar(base, `${base}/dav/calendars/${user}/${calendar.toLowerCase()}/`, user, account.password)
}

/** Switches behaviour of Copperplate Calendar on; all other switches go off. */
export async function switchOn(base: string, ...names: string[]): Promise<void> {
  await expectOk(fetch(`${base}/switches`, { method: 'POST', redirect: 'manual', body: new URLSearchParams(names.map(name => [name, 'on'])) }), 303)
}

export async function setFault(base: string, fault: Record<string, string>): Promise<void> {
  await expectOk(fetch(`${base}/faults`, { method: 'POST', redirect: 'manual', body: new URLSearchParams(fault) }), 303)
}

export async function callsOf(base: string): Promise<{ at: string, call: string, status: number }[]> {
  return (await fetch(`${base}/calls.json`)).json() as Promise<{ at: string, call: string, status: number }[]>
}

export interface Radicale {
  url: string
  port: number
  process: Started
  /** A new account with one calendar, both of a name. */
  calendar: (name: string) => Promise<TestCalendar>
}

/** The calendar server of Debian's packages, with no account yet. */
export async function startRadicale(folder: string, first: number): Promise<Radicale> {
  if (!existsSync('/usr/bin/radicale')) throw new Error('radicale is not installed')
  const home = join(folder, 'radicale')
  mkdirSync(home, { recursive: true })
  const users = join(home, 'users')
  writeFileSync(users, '')
  const port = await freePort(first, new Set())
  const config = join(home, 'config')
  writeFileSync(config, [
    '[server]', `hosts = 127.0.0.1:${port}`, '[auth]', 'type = htpasswd', `htpasswd_filename = ${users}`, 'htpasswd_encryption = plain', 'delay = 0',
    '[storage]', `filesystem_folder = ${join(home, 'collections')}`, '',
  ].join('\n'))
  const started = startProcess('radicale', 'radicale', ['--config', config], { logFile: join(home, 'log') })
  const url = `http://127.0.0.1:${port}`
  await until(() => fetch(url, { redirect: 'manual' }).then(() => true, () => false), 20, 'radicale does not answer')
  return {
    url, port, process: started,
    calendar: async (name) => {
      appendFileSync(users, `${name}:vellum\n`)
      const collection = `${url}/${name}/${name}/`
      await expectOk(fetch(collection, {
        method: 'MKCALENDAR', headers: { authorization: basic(name, 'vellum') },
        body: `<?xml version="1.0"?><C:mkcalendar xmlns:D="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><D:set><D:prop><D:displayname>${name}</D:displayname></D:prop></D:set></C:mkcalendar>`,
      }), 201)
      return davCalendar(url, collection, name, 'vellum')
    },
  }
}

export function davCalendar(base: string, collection: string, user: string, password: string): TestCalendar {
  const headers = { authorization: basic(user, password) }
  return {
    address: `${base}/`, user, password,
    put: async (name, text) => {
      const { status } = await fetch(collection + name, { method: 'PUT', headers: { ...headers, 'content-type': 'text/calendar' }, body: text })
      if (![201, 204].includes(status)) throw new Error(`PUT answered ${status}`)
    },
    delete: name => expectOk(fetch(collection + name, { method: 'DELETE', headers }), 204, 200),
    list: async () => {
      const body = '<?xml version="1.0"?><D:propfind xmlns:D="DAV:"><D:prop><D:getetag/></D:prop></D:propfind>'
      const answer = await (await fetch(collection, { method: 'PROPFIND', headers: { ...headers, depth: '1' }, body })).text()
      const names = [...answer.matchAll(/href>[^<]*\/([^</]+\.ics)</g)].map(match => decodeURIComponent(match[1] ?? ''))
      const textOf = async (name: string) => (await fetch(collection + encodeURIComponent(name), { headers })).text()
      return new Map(await Promise.all(names.map(async name => [name, await textOf(name)] as const)))
    },
  }
}

async function expectOk(answer: Promise<Response>, ...statuses: number[]): Promise<void> {
  const { status, url } = await answer
  if (!statuses.includes(status)) throw new Error(`${url} answered ${status}`)
}

function basic(user: string, password: string): string {
  return `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`
}

/** An entry from one instant to another (RFC 3339), with more lines. */
export function entry(uid: string, start: string, end: string, ...lines: string[]): string {
  const at = (instant: string) => `${instant.replaceAll(/[-:]/g, '').replace(/\.\d+/, '')}`
  return ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Test//EN', 'BEGIN:VEVENT', `UID:${uid}`, 'DTSTAMP:20260101T000000Z',
    `DTSTART:${at(start)}`, `DTEND:${at(end)}`, 'SUMMARY:Secret dentist', ...lines, 'END:VEVENT', 'END:VCALENDAR', ''].join('\r\n')
}
