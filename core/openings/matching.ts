/**
 * A system of distinct representatives: a different able host for every chair, by augmenting paths.
 * Takes the able hosts of each chair; gives the host chosen for each, or null where none exists.
 */
export function distinctHosts<Host>(chairs: readonly (readonly Host[])[]): Host[] | null {
  const holder = new Map<Host, number>()
  for (let chair = 0; chair < chairs.length; chair++) if (!seat(chair, new Set())) return null
  const chosen: Host[] = []
  for (const [host, chair] of holder) chosen[chair] = host
  return chosen

  function seat(chair: number, tried: Set<Host>): boolean {
    for (const host of chairs[chair] ?? []) {
      if (tried.has(host)) continue
      tried.add(host)
      const other = holder.get(host)
      if (other === undefined || seat(other, tried)) {
        holder.set(host, chair)
        return true
      }
    }
    return false
  }
}
