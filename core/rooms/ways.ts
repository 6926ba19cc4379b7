import { z } from 'zod'
import { fault, noRepeats } from '../validation'

/** The ways to a session's room: in which order they are tried, how long each one is, and when the next one is. */

/**
 * `own`: a host's own video account; `workspace`: the workspace's; `pattern`: an address of the workspace's own meeting server;
 * `fixed`: a host's fixed room; `link`: one that belongs to the event type; `byHand`: one that a person gave to the session.
 */
export const wayKinds = ['own', 'workspace', 'pattern', 'fixed', 'link'] as const
export type WayKind = (typeof wayKinds)[number]
export const roomWays = [...wayKinds, 'byHand'] as const
export type RoomWay = (typeof roomWays)[number]

export const presetWays: readonly WayKind[] = ['own', 'workspace', 'pattern', 'fixed']

export const waysSchema = z.array(z.enum(wayKinds)).min(1).max(wayKinds.length).superRefine(noRepeats())

/** Where `{room}` stands in a pattern, each session has a part of its own that nobody can guess. */
export const ROOM_PART = '{room}'

export const patternSchema = z.string().trim().max(500).refine((text) => {
  const filled = text.replace(ROOM_PART, 'room')
  return text === '' || (text.split(ROOM_PART).length === 2 && !filled.includes('{') && /^https?:\/\//.test(filled) && URL.canParse(filled)
    && new URL(filled).hostname !== '' && !new URL(filled.replace('room', 'other')).hostname.includes('other'))
}, fault('roomPattern'))

const webLink = z.url({ protocol: /^https?$/, error: fault('roomLink') }).max(2000)

export const linkSchema = z.union([z.literal(''), webLink])

/** What a person gives to one session. */
export const givenLinkSchema = z.strictObject({ link: webLink })

/** A room that a host always has, wherever it is. */
export const fixedRoomSchema = z.strictObject({
  link: webLink,
  number: z.string().trim().max(100),
  passcode: z.string().trim().max(100),
})
export type FixedRoom = z.infer<typeof fixedRoomSchema>

/** A way that is open to a session at present. The key stays the same from one try to the next. */
export interface OpenWay {
  key: string
  kind: WayKind
}

/** The way to begin with, or to go on with once those of some keys were given up; null where none is left. */
export function nextWay<Way extends OpenWay>(open: readonly Way[], order: readonly WayKind[], givenUp: readonly string[]): Way | null {
  for (const kind of order) {
    const way = open.find(candidate => candidate.kind === kind && !givenUp.includes(candidate.key))
    if (way) return way
  }
  return null
}

/** While somebody waits for a confirmation, each way gets so long. Seconds. */
const LONGEST_WHILE_WAITING = 6

/** How long one way is tried before the next, by how far off the session is. Seconds. */
const patienceByDistance = [
  { within: 600, patience: 20 },
  { within: 3600, patience: 120 },
  { within: 86_400, patience: 900 },
  { within: Infinity, patience: 7200 },
]

/** The longest wait between two tries, by how far off the session is: minutes before it every few seconds. Seconds. */
const pauseByDistance = [
  { within: 600, pause: 5 },
  { within: 3600, pause: 60 },
  { within: Infinity, pause: 3600 },
]

export interface Trying {
  now: number
  /** When the session starts. */
  start: number
  /** When this way was first tried. */
  since: number
  /** Until when confirmations wait for the room; null where none does. */
  waitsUntil: number | null
}

const withinOf = <Row extends { within: number }>(rows: readonly Row[], { now, start }: Pick<Trying, 'now' | 'start'>): Row | undefined =>
  rows.find(({ within }) => start - now <= within)

/** Until when a way is tried where there is another. All in seconds. */
export function givenUpAt(trying: Trying): number {
  const { now, since, waitsUntil } = trying
  if (waitsUntil !== null && now < waitsUntil) return since + LONGEST_WHILE_WAITING
  return since + (withinOf(patienceByDistance, trying)?.patience ?? 0)
}

/** How long to wait for the next try at most, in seconds, whatever the number of tries would make it. */
export function longestPause(trying: Pick<Trying, 'now' | 'start'>): number {
  return withinOf(pauseByDistance, trying)?.pause ?? 3600
}

/**
 * What follows a try that failed: the next one of the same way at an instant, or another way at once. `wait` is what the number
 * of tries so far asks for, in seconds; `isHopeless` where only a person can mend what is wrong.
 */
export function afterFailure(trying: Trying, wait: number, hasAnother: boolean, isHopeless: boolean): { kind: 'again', at: number } | { kind: 'another' } {
  const at = trying.now + Math.min(wait, longestPause(trying))
  if (hasAnother && (isHopeless || at >= givenUpAt(trying))) return { kind: 'another' }
  return { kind: 'again', at }
}

/** Another session of the host right before or after, in whose room the clients of this one would find themselves. Seconds. */
export function followsAtOnce(session: { start: number, end: number }, others: readonly { start: number, end: number }[]): boolean {
  return others.some(other => other.start <= session.end && other.end >= session.start)
}
