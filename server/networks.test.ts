import { describe, expect, it } from 'vitest'
import { clientAddress, parseNetworks, sourceOf } from './networks'

const proxies = parseNetworks('127.0.0.1, 10.0.0.0/8, fd00::/8', fault => expect.fail(fault))

describe('where a request comes from', () => {
  it.each<[connection: string, forwardedFor: string | undefined, expected: string | null]>([
    ['203.0.113.9', undefined, '203.0.113.9'],
    ['203.0.113.9', '198.51.100.1', '203.0.113.9'],
    ['127.0.0.1', '198.51.100.1', '198.51.100.1'],
    ['127.0.0.1', '192.0.2.66, 198.51.100.1, 10.1.2.3', '198.51.100.1'],
    ['::ffff:127.0.0.1', '2001:db8::7', '2001:db8::7'],
    ['fd00::1', '198.51.100.1', '198.51.100.1'],
    ['127.0.0.1', '198.51.100.1:4711', '198.51.100.1'],
    ['127.0.0.1', '[2001:db8::7]:443', '2001:db8::7'],
    ['127.0.0.1', 'nonsense', null],
    ['127.0.0.1', undefined, '127.0.0.1'],
  ])('%s saying %s', (connection, forwardedFor, expected) => {
    expect(clientAddress(connection, forwardedFor, proxies)).toBe(expected)
  })

  it('is one source for all addresses that one customer has', () => {
    expect(sourceOf('2001:db8:0:1:aaaa::1')).toBe(sourceOf('2001:db8:0:1:bbbb:cccc:0:2'))
    expect(sourceOf('2001:db8:0:1::1')).not.toBe(sourceOf('2001:db8:0:2::1'))
    expect(sourceOf('::ffff:192.0.2.1')).toBe('192.0.2.1')
  })

  it('names settings that cannot be read', () => {
    const faults: string[] = []
    parseNetworks('10.0.0.0/8, proxy.example, 10.0.0.0/99', fault => faults.push(fault))
    expect(faults).toEqual([expect.stringContaining('proxy.example'), expect.stringContaining('10.0.0.0/99')])
  })
})
