import { formatList } from '../time/format'

/** "First meeting with Nell Harrow"; just the name where it already says who. */
export function withHosts(eventType: string, hosts: readonly string[]): string {
  const names = eventType.toLowerCase()
  const isNamed = hosts.length > 0 && hosts.every(host => names.includes((host.split(' ')[0] ?? host).toLowerCase()))
  return isNamed || hosts.length === 0 ? eventType : `${eventType} with ${formatList(hosts)}`
}
