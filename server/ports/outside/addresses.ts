import { lookup } from 'node:dns/promises'
import type { LookupFunction } from 'node:net'
import ipaddr from 'ipaddr.js'

/** Which network addresses may be connected to on behalf of people: public ones, as they would reach anything else through us. */

/** Resolves a name to all of its addresses. */
export type Resolve = (name: string) => Promise<string[]>

export const resolveName: Resolve = async name => (await lookup(name, { all: true, verbatim: true })).map(({ address }) => address)

/** Public by its range, yet answered by the machine that a cloud's guests run on. */
const METADATA = new Set(['168.63.129.16'])

/** Whether an address is one of the public network. IPv4 in IPv6 is judged as IPv4. */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false
  const parsed = ipaddr.process(address)
  return parsed.range() === 'unicast' && !METADATA.has(parsed.toString())
}

/** Thrown where a name leads to none but private addresses. */
export class PrivateAddress extends Error {}

/**
 * Resolves for one connection, which then goes to what was checked here: whatever the name leads to later, nothing asks it
 * again.
 */
export function checkedLookup(resolve: Resolve, isFit: (address: string) => boolean): LookupFunction {
  return (name, options, callback) => {
    resolve(name).then((found) => {
      const addresses = found.filter(isFit).map(address => ({ address, family: ipaddr.parse(address).kind() === 'ipv6' ? 6 : 4 }))
      const [first] = addresses
      // A name that leads to both is made to lead around the check.
      if (!first || addresses.length < found.length) callback(new PrivateAddress(name), '', 4)
      else if (options.all) callback(null, addresses)
      else callback(null, first.address, first.family)
    }, (error: NodeJS.ErrnoException) => callback(error, '', 4))
  }
}
