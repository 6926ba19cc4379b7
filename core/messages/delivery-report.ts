/** Reports on mail that was taken by a server and could not be delivered later (RFC 3464). */

export interface ReportedRecipient {
  address: string
  action: 'failed' | 'delayed' | 'delivered' | 'relayed' | 'expanded'
  /** An enhanced status code (RFC 3463), as `5.1.1`. */
  status: string
  /** What the server said, in one line. */
  reply: string
}

const actions: readonly ReportedRecipient['action'][] = ['failed', 'delayed', 'delivered', 'relayed', 'expanded']

/** The most that is read of a report, which anybody may send. */
const MOST_CHARACTERS = 200_000
const MOST_RECIPIENTS = 50
const REPLY_CHARACTERS = 300

/**
 * Reads the text of a `message/delivery-status` part: a group of fields about the message and one for each recipient, with empty
 * lines between (RFC 3464 §2.1). Groups that name no recipient, or no action that the standard knows, are left out.
 */
export function parseDeliveryStatus(text: string): ReportedRecipient[] {
  const groups = text.slice(0, MOST_CHARACTERS).replaceAll('\r\n', '\n').split(/\n{2,}/).map(fieldsOf)
  return groups.flatMap((fields) => {
    const address = addressIn(fields.get('original-recipient') ?? '') || addressIn(fields.get('final-recipient') ?? '')
    const action = actions.find(known => known === fields.get('action')?.toLowerCase())
    if (!address || !action) return []
    const [status = ''] = /\d\.\d{1,3}\.\d{1,3}/.exec(fields.get('status') ?? '') ?? []
    const said = (fields.get('diagnostic-code') ?? '').replace(/^[\w-]+;\s*/, '')
    return [{ address, action, status, reply: oneLine(said || status || 'no reason given') }]
  }).slice(0, MOST_RECIPIENTS)
}

/** Whether a server's status or words say that there is no such mailbox, and not that it refuses what is in the mail. */
export function isUnknownAddress(status: string, reply: string): boolean {
  if (/^5\.1\.[1236]$|^5\.1\.10$/.test(status)) return true
  return status === '' && /\b(no such (user|mailbox|address|recipient)|(user|mailbox|recipient|address) (unknown|not found|does(n't| not) exist)|unknown (user|mailbox|recipient))\b/i.test(reply)
}

/** The enhanced status code that a reply of a mail server begins with after its number: `550 5.1.1 …`; empty without one. */
export function enhancedStatus(reply: string): string {
  return /(?:^|\s)(?:5\d\d[ -])(5\.\d{1,3}\.\d{1,3})\b/.exec(reply)?.[1] ?? ''
}

/** Names in small letters; lines that begin with a space go on with the one before (RFC 5322 §2.2.3). */
function fieldsOf(group: string): Map<string, string> {
  const lines = group.replace(/\n[ \t]+/g, ' ').split('\n')
  return new Map(lines.flatMap((line) => {
    const [, name, value] = /^([\w-]+):\s*(.*)$/.exec(line) ?? []
    return name === undefined || value === undefined ? [] : [[name.toLowerCase(), value.trim()] as const]
  }))
}

/** `rfc822; ana@place.example`; of other kinds of addresses none. */
function addressIn(field: string): string {
  const [, address = ''] = /^(?:rfc822|utf-8);\s*<?([^\s<>]+@[^\s<>]+)>?$/i.exec(field) ?? []
  return address.toLowerCase()
}

function oneLine(text: string): string {
  return [...text].filter(character => character >= ' ').join('').replace(/\s+/g, ' ').trim().slice(0, REPLY_CHARACTERS)
}
