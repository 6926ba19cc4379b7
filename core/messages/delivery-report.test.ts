import { describe, expect, it } from 'vitest'
import { enhancedStatus, isUnknownAddress, parseDeliveryStatus } from './delivery-report'

const report = [
  'Reporting-MTA: dns; mx.place.example', 'Arrival-Date: Mon, 30 Nov 2026 10:00:00 +0000', '',
  'Original-Recipient: rfc822;Ana@Place.example', 'Final-Recipient: rfc822; ana+box@place.example', 'Action: failed', 'Status: 5.1.1 (unknown)',
  'Diagnostic-Code: smtp; 550 5.1.1', '  No such user', '',
  'Final-Recipient: rfc822; bo@place.example', 'Action: delayed', 'Status: 4.4.1', '',
  'Final-Recipient: x400; whatever', 'Action: failed', 'Status: 5.0.0', '',
  'Final-Recipient: rfc822; cai@place.example', 'Action: exploded', '',
].join('\r\n')

describe('a delivery report', () => {
  it('is read by recipient, with folded lines, and without what it does not name', () => {
    expect(parseDeliveryStatus(report)).toEqual([
      { address: 'ana@place.example', action: 'failed', status: '5.1.1', reply: '550 5.1.1 No such user' },
      { address: 'bo@place.example', action: 'delayed', status: '4.4.1', reply: '4.4.1' },
    ])
  })

  it.each(['', 'nothing', '\n\n\n', 'Final-Recipient: rfc822; a@b.example', ':'.repeat(9000), 'Action: failed\n'.repeat(30_000)])('of no use gives nothing', (text) => {
    expect(parseDeliveryStatus(text)).toEqual([])
  })

  it('keeps what a server said on one short line', () => {
    const [found] = parseDeliveryStatus(`Final-Recipient: rfc822; a@b.example\nAction: failed\nDiagnostic-Code: smtp; 550 \u0007${'x'.repeat(500)}`)
    expect(found?.reply).toBe(`550 ${'x'.repeat(296)}`)
  })
})

it.each([
  ['550 5.1.1 whatever', true], ['550 5.1.10 gone', true], ['550 5.7.1 no such user is allowed', false], ['550 No such user here', true],
  ['551 User unknown', true], ['550 Message refused as spam', false], ['554 5.4.4 no route', false], ['550-5.1.1 more follows', true],
])('a refusal says whether the address exists: %s', (reply, isUnknown) => {
  expect(isUnknownAddress(enhancedStatus(reply), reply)).toBe(isUnknown)
})
