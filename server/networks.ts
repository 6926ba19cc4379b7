import ipaddr from 'ipaddr.js'

/** Network addresses: which are proxies of ours, and what counts as one source. */

type Address = ipaddr.IPv4 | ipaddr.IPv6

/** An address and how many of its leading bits belong to the network. */
export type Network = [Address, number]

/** Networks such as `10.0.0.0/8, ::1`; tells `refuse` what it cannot read. */
export function parseNetworks(text: string, refuse: (fault: string) => void): Network[] {
  return text.split(',').map(part => part.trim()).filter(Boolean).flatMap((part): Network[] => {
    if (ipaddr.isValid(part)) {
      const address = ipaddr.process(part)
      return [[address, address.kind() === 'ipv4' ? 32 : 128]]
    }
    if (ipaddr.isValidCIDR(part)) return [ipaddr.parseCIDR(part)]
    refuse(`holds “${part}”, which is neither an address nor a network such as 10.0.0.0/8`)
    return []
  })
}

/**
 * The address a request came from: that of the connection, or, as long as that is a proxy of ours, the one the proxy
 * names. What others write into X-Forwarded-For is not read.
 */
export function clientAddress(
  connection: string | undefined,
  forwardedFor: string | undefined,
  proxies: readonly Network[],
): string | null {
  const hops = [...(forwardedFor ?? '').split(',').map(withoutPort).filter(Boolean), connection ?? '']
  for (const hop of hops.reverse()) {
    if (!ipaddr.isValid(hop)) return null
    const address = ipaddr.process(hop)
    if (!isWithin(hop, proxies)) return address.toString()
  }
  return ipaddr.isValid(connection ?? '') ? ipaddr.process(connection ?? '').toString() : null
}

/** Some proxies name the port too: `192.0.2.1:443`, `[2001:db8::1]:443`. */
function withoutPort(hop: string): string {
  const text = hop.trim()
  return /^\[(.+)\](:\d+)?$/.exec(text)?.[1] ?? /^([\d.]+):\d+$/.exec(text)?.[1] ?? text
}

/** Whether a valid address lies in one of the networks. */
export function isWithin(address: string, networks: readonly Network[]): boolean {
  const parsed = ipaddr.process(address)
  return networks.some(network => parsed.kind() === network[0].kind() && parsed.match(network))
}

/** Bits of an IPv6 address that one customer is given; the rest they choose themselves. */
const CUSTOMER_BITS = 64

/** What counts as one source: an IPv4 address, or the /64 network of an IPv6 address. */
export function sourceOf(address: string): string {
  const parsed = ipaddr.process(address)
  if (parsed.kind() === 'ipv4') return parsed.toString()
  const parts = parsed.toByteArray().slice(0, CUSTOMER_BITS / 8)
  return `${parts.map(byte => byte.toString(16).padStart(2, '0')).join('')}/${CUSTOMER_BITS}`
}
