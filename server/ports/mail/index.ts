/** The way out for mail. */

export interface Mail {
  messageId: string
  from: { name: string, address: string }
  to: { name: string, address: string }
  replyTo: { name: string, address: string } | null
  subject: string
  text: string
  html: string
  /** Where its reader can end mails like it, by a page and by one click (RFC 8058). */
  unsubscribe?: string | null
  calendar: { method: 'REQUEST' | 'CANCEL' | 'PUBLISH', content: string } | null
}

export interface MailPort {
  /** Resolves once the server has taken the mail. Throws SendFault. */
  send: (mail: Mail) => Promise<void>
  close: () => void
}
