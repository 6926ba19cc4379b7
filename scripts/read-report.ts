import { readFileSync, statSync } from 'node:fs'
import { simpleParser } from 'mailparser'
import { parseDeliveryStatus } from '../core/messages/delivery-report'
import { recordDeliveryReport } from '../server/messages'
import { closeContext, makeContext } from '../server/start'

/**
 * Reads a report that a mail could not be delivered (RFC 3464), as it came to the sender’s mailbox: `npm run -s read-report --
 * FILE`, with the settings in the environment. Meant for the program that takes mail for `MAIL_FROM`. What came back is shown on
 * its session and in *Needs you*. Exit status 1 where the file is no such report, or is about no mail of this installation.
 */

const MOST_BYTES = 5 * 1024 * 1024
const [path] = process.argv.slice(2)

const ignored = {
  notFailed: 'is not given up yet, or arrived: nothing to do', knownAlready: 'is known already, or was not sent: nothing to do',
  otherAddress: 'is not who the mail went to: left alone',
} as const

async function read(file: string): Promise<string[] | string> {
  if (statSync(file).size > MOST_BYTES) return 'The file is too large for a delivery report'
  const raw = readFileSync(file)
  const mail = await simpleParser(raw, { keepDeliveryStatus: true })
  const status = mail.attachments.filter(part => part.contentType === 'message/delivery-status').map(part => part.content.toString('utf8'))
  const recipients = status.flatMap(parseDeliveryStatus)
  if (recipients.length === 0) return 'The file holds no delivery report (RFC 3464)'
  // Wherever the mail that came back stands in it: as a whole, as its headers alone, or named by the report’s own.
  const messageIds = raw.toString('latin1').match(/<[0-9a-f-]{36}\.[0-9a-f-]{36}@[^>\s]{1,255}>/g) ?? []
  const context = await makeContext(process.env)
  try {
    const outcomes = await recordDeliveryReport(context, messageIds, recipients)
    if (!outcomes) return 'The report is about no mail of this installation'
    return outcomes.map(outcome => outcome.kind === 'recorded'
      ? `${outcome.address}: recorded; shown on the session and in Needs you` : `${outcome.address} ${ignored[outcome.why]}`)
  } finally {
    await closeContext(context)
  }
}

const said = path ? await read(path) : 'Usage: npm run -s read-report -- FILE'
if (typeof said === 'string') {
  process.stderr.write(`${said}\n`)
  process.exitCode = 1
} else {
  for (const line of said) process.stdout.write(`${line}\n`)
}
