import nodemailer from 'nodemailer'
import { enhancedStatus, isUnknownAddress } from '../../../../core/messages/delivery-report'
import type { Mail, MailPort } from '..'
import { SendFault } from '../../send-fault'

/** Signs mails, so that servers can tell that they come from their domain (DKIM, RFC 6376). */
export interface MailSigning {
  domain: string
  selector: string
  /** PEM. */
  privateKey: string
}

/** Any SMTP server, by its address; with `?pool=true` one connection carries many mails, for a load that is watched. */
export function smtpMail(url: string, timeoutSeconds: number, signing: MailSigning | null): MailPort {
  const parsed = new URL(url)
  const options = {
    host: parsed.hostname,
    port: Number(parsed.port) || (parsed.protocol === 'smtps:' ? 465 : 25),
    secure: parsed.protocol === 'smtps:',
    ...(parsed.username ? { auth: { user: decodeURIComponent(parsed.username), pass: decodeURIComponent(parsed.password) } } : {}),
    connectionTimeout: timeoutSeconds * 1000,
    greetingTimeout: timeoutSeconds * 1000,
    socketTimeout: timeoutSeconds * 1000,
    ...signing && { dkim: { domainName: signing.domain, keySelector: signing.selector, privateKey: signing.privateKey } },
  }
  const pool =
    parsed.searchParams.get('pool') === 'true'
      ? nodemailer.createTransport({ ...options, pool: true, maxConnections: 1, maxMessages: Infinity })
      : null
  return {
    send: async (mail) => {
      // Over a shared connection nobody can know whose text had been sent, so it counts as sent.
      let textSent = pool !== null
      const transport = pool ?? nodemailer.createTransport({ ...options, logger: watchText(() => (textSent = true)) })
      try {
        await withDeadline(transport.sendMail(messageOf(mail)), timeoutSeconds * WHOLE_FACTOR)
      } catch (error) {
        throw faultFrom(error, textSent)
      } finally {
        if (!pool) transport.close()
      }
    },
    close: () => pool?.close(),
  }
}

/** One mail may take so many times as long as one answer: a server that answers bit by bit must not hold up all others. */
const WHOLE_FACTOR = 3

function withDeadline<Result>(work: Promise<Result>, seconds: number): Promise<Result> {
  let timer: NodeJS.Timeout | undefined
  const late = new Promise<never>(
    (_, reject) => (timer = setTimeout(() => reject(new Error(`The mail server took longer than ${seconds} s`)), seconds * 1000)),
  )
  return Promise.race([work, late]).finally(() => clearTimeout(timer))
}

function messageOf(mail: Mail) {
  return {
    messageId: mail.messageId,
    from: mail.from,
    to: mail.to,
    ...(mail.replyTo ? { replyTo: mail.replyTo } : {}),
    subject: mail.subject,
    text: mail.text,
    html: mail.html,
    headers: {
      'Auto-Submitted': 'auto-generated',
      ...(mail.unsubscribe ? { 'List-Unsubscribe': `<${mail.unsubscribe}>`, 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' } : {}),
    },
    ...(mail.calendar ? { icalEvent: { method: mail.calendar.method, filename: 'session.ics', content: mail.calendar.content } } : {}),
  }
}

/**
 * A logger that only notes that the whole text of a mail has been sent. The library's errors do not tell: a connection
 * that breaks after the text looks like one that never came about.
 */
function watchText(sent: () => void) {
  const ignore = () => {}
  const info = (entry: unknown) => {
    if (typeof entry === 'object' && entry !== null && 'tnx' in entry && entry.tnx === 'message') sent()
  }
  return { level: ignore, trace: ignore, debug: ignore, info, warn: ignore, error: ignore, fatal: ignore }
}

/**
 * A reply code means that the server said no, from 500 on for good (RFC 5321 §4.2.1). Without one, the mail may have been
 * taken only if all of its text had been sent.
 */
function faultFrom(error: unknown, textSent: boolean): SendFault {
  const message = error instanceof Error ? error.message : String(error)
  const code =
    typeof error === 'object' && error !== null && 'responseCode' in error && typeof error.responseCode === 'number'
      ? error.responseCode
      : null
  const outcome = code !== null && code >= 500 && code < 600 ? 'rejected' : code !== null || !textSent ? 'refused' : 'unknown'
  // What a server says is shown to the team and stored: one short line.
  const reply = [...message].filter(character => character >= ' ').join('').replace(/\s+/g, ' ').slice(0, 300)
  const isUnknown = outcome === 'rejected' && isUnknownAddress(enhancedStatus(reply), reply)
  return new SendFault({ code: isUnknown ? 'addressUnknown' : 'mailServer', reply }, outcome)
}
