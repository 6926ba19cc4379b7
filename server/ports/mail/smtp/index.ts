import nodemailer from 'nodemailer'
import { MailFault, type MailPort } from '..'

/** Any SMTP server, by its address; with `?pool=true` one connection carries many mails, for a load that is watched. */
export function smtpMail(url: string, timeoutSeconds: number): MailPort {
  const parsed = new URL(url)
  const options = {
    host: parsed.hostname,
    port: Number(parsed.port) || (parsed.protocol === 'smtps:' ? 465 : 25),
    secure: parsed.protocol === 'smtps:',
    ...(parsed.username ? { auth: { user: decodeURIComponent(parsed.username), pass: decodeURIComponent(parsed.password) } } : {}),
    connectionTimeout: timeoutSeconds * 1000,
    greetingTimeout: timeoutSeconds * 1000,
    socketTimeout: timeoutSeconds * 1000,
  }
  const transport = parsed.searchParams.get('pool') === 'true'
    ? nodemailer.createTransport({ ...options, pool: true, maxConnections: 1, maxMessages: Infinity })
    : nodemailer.createTransport(options)
  return {
    send: async (mail) => {
      try {
        await transport.sendMail({
          messageId: mail.messageId,
          from: mail.from,
          to: mail.to,
          ...(mail.replyTo ? { replyTo: mail.replyTo } : {}),
          subject: mail.subject,
          text: mail.text,
          html: mail.html,
          headers: { 'Auto-Submitted': 'auto-generated' },
          ...(mail.calendar ? { icalEvent: { method: mail.calendar.method, filename: 'session.ics', content: mail.calendar.content } } : {}),
        })
      } catch (error) {
        throw faultFrom(error)
      }
    },
    close: () => transport.close(),
  }
}

/**
 * A reply code means that the server said no. Without one, the mail may have been taken only if its text was already on
 * the way, that is after DATA.
 */
function faultFrom(error: unknown): MailFault {
  const message = error instanceof Error ? error.message : String(error)
  const detail = typeof error === 'object' && error !== null ? error : {}
  const command = 'command' in detail ? String(detail.command) : ''
  const answered = 'responseCode' in detail && typeof detail.responseCode === 'number'
  const early = ['CONN', 'EHLO', 'HELO', 'AUTH', 'STARTTLS', 'MAIL FROM', 'RCPT TO', 'API'].some(name => command.startsWith(name))
  return new MailFault(message.replace(/\s+/g, ' '), answered || early ? 'refused' : 'unknown')
}
