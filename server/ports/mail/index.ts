import type { Fault } from '../../../core/faults'

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

/**
 * `refused`: surely not taken, and perhaps later; `rejected`: not taken, and the server says it never will; `unknown`: it
 * may or may not have been taken.
 */
export class MailFault extends Error {
  constructor(readonly fault: Fault, readonly outcome: 'refused' | 'rejected' | 'unknown') {
    super(fault.code)
    this.name = 'MailFault'
  }
}

export interface MailPort {
  /** Resolves once the server has taken the mail. Throws MailFault. */
  send: (mail: Mail) => Promise<void>
  close: () => void
}
