import type { Compiled } from './compile'
import { distinctHosts } from './matching'

/** The able hosts of each chair, sorted by id. */
export type AbleHosts = Readonly<Record<string, readonly string[]>>

interface Place {
  seat: Seat
  place: number
}

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
 * candidates, so their lists are made anew only when somebody has toggled.
 */
export function seatTable({ chairs }: Compiled) {
  const hosts = [...new Set(chairs.flatMap(chair => chair.hosts))]
  const seats = chairs.map((chair): Seat => {
    const names = chair.hosts.map(host => host.id).sort()
    return { id: chair.id, names, on: new Uint8Array(names.length), able: 0, ids: [], stale: false }
  })
  /** Where each host may sit: the seats and the host's place in their pools. */
  const seatsOf = hosts.map(host => seats.map(seat => ({ seat, place: seat.names.indexOf(host.id) })).filter(({ place }) => place >= 0))
  const shared = seatsOf.some(places => places.length > 1)
  let lastResult: AbleHosts | null = null

  /** A host becomes able or unable. */
  function toggle(index: number): void {
    const places = seatsOf[index] ?? []
    for (let i = 0; i < places.length; i++) {
      const { seat, place } = places[i] as Place
      const now = 1 - (seat.on[place] ?? 0)
      seat.on[place] = now
      seat.able += now === 1 ? 1 : -1
      seat.stale = true
    }
  }

  /** The able hosts of each chair, or null where the chairs cannot all be filled by different ones. */
  function able(): AbleHosts | null {
    for (let i = 0; i < seats.length; i++) if (seats[i]?.able === 0) return null
    let same = lastResult !== null
    for (let i = 0; i < seats.length; i++) if (refresh(seats[i] as Seat)) same = false
    if (same) return lastResult
    if (shared && !distinctHosts(seats.map(seat => seat.ids))) return lastResult = null
    const hostsOf: Record<string, readonly string[]> = {}
    for (let i = 0; i < seats.length; i++) hostsOf[seats[i]?.id ?? ''] = seats[i]?.ids ?? []
    return lastResult = hostsOf
  }

  /** Whether the seat's hosts differ from those of the last result. */
  function refresh(seat: Seat): boolean {
    if (!seat.stale) return false
    seat.stale = false
    const before = seat.ids
    // A pool that is able to the last keeps one list: a host alone toggles often, with the same list each time.
    if (seat.able === seat.names.length) seat.ids = seat.names
    else {
      const { on, names } = seat
      const ids: string[] = new Array(seat.able)
      for (let i = 0, count = 0; i < on.length; i++) if (on[i] === 1) ids[count++] = names[i] as string
      seat.ids = ids
    }
    return seat.ids !== before
  }

  return { hosts, toggle, able }
}
