import type { Compiled } from './compile'
import { distinctHosts } from './matching'

/** The able hosts of each chair, sorted by id. */
export type AbleHosts = Readonly<Record<string, readonly string[]>>

/**
 * Who is able while a walk goes from candidate to candidate. Hosts turn able and unable far less often than there are
 * candidates, so what is told of them is made only when somebody has turned.
 */
export function seatTable({ chairs }: Compiled) {
  const hosts = [...new Set(chairs.flatMap(chair => chair.hosts))]
  const on = hosts.map(() => false)
  const seats = chairs.map(chair => ({
    id: chair.id,
    indices: [...chair.hosts].sort((a, b) => (a.id < b.id ? -1 : 1)).map(host => hosts.indexOf(host)),
    ids: [] as readonly string[],
  }))
  const chairsOf = hosts.map((_, index) => seats.filter(seat => seat.indices.includes(index)))
  const free = new Map(seats.map(seat => [seat, 0]))
  const stale = new Set<(typeof seats)[number]>()
  const shared = seats.reduce((sum, seat) => sum + seat.indices.length, 0) > hosts.length
  let answer: AbleHosts | null = null

  return {
    hosts,
    turn(index: number): void {
      on[index] = !on[index]
      for (const seat of chairsOf[index] ?? []) {
        free.set(seat, (free.get(seat) ?? 0) + (on[index] ? 1 : -1))
        stale.add(seat)
      }
    },
    /** The able hosts of each chair, or null where the chairs cannot all be filled by different ones. */
    able(): AbleHosts | null {
      if (stale.size === 0) return answer
      for (const many of free.values()) if (many === 0) return null
      for (const seat of stale) seat.ids = seat.indices.filter(index => on[index]).map(index => hosts[index]?.id ?? '')
      stale.clear()
      const filled = !shared || distinctHosts(seats.map(seat => seat.ids)) !== null
      answer = filled ? Object.fromEntries(seats.map(seat => [seat.id, seat.ids])) : null
      return answer
    },
  }
}
