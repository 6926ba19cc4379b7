import { compile } from './compile'
import type { EngineQuery } from './engine-query'
import { hostReasons } from './explain'
import { hoursOfHosts } from './offered'

/** The hosts of a query who could take its session at an instant (rule 5), whatever the grid and the start-level rules say. */
export function ableAt(query: EngineQuery, at: number): string[] {
  const compiled = compile(query)
  const hours = hoursOfHosts(compiled, at, at + 1)
  const day = compiled.zone.dayOf(at)
  return compiled.hosts.filter(host => hostReasons(compiled, host, hours.get(host) ?? [], at, day).length === 0).map(host => host.id)
}
