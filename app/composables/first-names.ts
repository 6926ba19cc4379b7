/** First names by host id. */
export function firstNames(hosts: readonly { id: string, name: string }[]): Map<string, string> {
  return new Map(hosts.map(host => [host.id, host.name.split(' ')[0] ?? host.name]))
}
