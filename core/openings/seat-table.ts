import type { Compiled } from './compile'
import { distinctHosts } from './matching'

/** The able hosts of each chair, sorted by id. */
export type AbleHosts = Readonly<Record<string, readonly string[]>>

interface Seat {
  id: string
  /** The chair's hosts by id. */
  names: string[]
  /** Which of them are able, 0 or 1 each. */
  on: Uint8Array
  able: number
  ids: readonly string[]
  stale: boolean
}

/**
 * Who is able while a walk goes from candidate to candidate. Hosts turn able and unable far less often than there are
 * candidates, so what is told of them is made only when somebody has turned.
 */
export function seatTable({ chairs }: Compiled) {
  const hosts = [...new Set(chairs.flatMap(chair => chair.hosts))]
  const seats = chairs.map((chair): Seat => {
    const names = chair.hosts.map(host => host.id).sort()
    return { id: chair.id, names, on: new Uint8Array(names.length), able: 0, ids: [], stale: false }
  })
  /** Where each host may sit: the seats and the host's place in their pools. */
  const seatsOf = hosts.map(host => seats.map(seat => ({ seat, place: seat.names.indexOf(host.id) })).filter(({ place }) => place >= 0))
  const shared = seatsOf.some(many => many.length > 1)
  let stale = false
  let answer: AbleHosts | null = null

  /** A host turns able or unable. */
  function turn(index: number): void {
    for (const { seat, place } of seatsOf[index] ?? []) {
      const now = 1 - (seat.on[place] ?? 0)
      seat.on[place] = now
      seat.able += now === 1 ? 1 : -1
      seat.stale = true
    }
    stale = true
  }

  /** The able hosts of each chair, or null where the chairs cannot all be filled by different ones. */
  function able(): AbleHosts | null {
    if (!stale) return answer
    for (const seat of seats) if (seat.able === 0) return null
    for (const seat of seats) if (seat.stale) refresh(seat)
    stale = false
    if (shared && !distinctHosts(seats.map(seat => seat.ids))) return answer = null
    const hostsOf: Record<string, readonly string[]> = {}
    for (const seat of seats) hostsOf[seat.id] = seat.ids
    return answer = hostsOf
  }

  function refresh(seat: Seat): void {
    const ids: string[] = new Array(seat.able)
    let many = 0
    for (let i = 0; i < seat.on.length; i++) if (seat.on[i] === 1) ids[many++] = seat.names[i] ?? ''
    seat.ids = ids
    seat.stale = false
  }

  return { hosts, turn, able }
}
