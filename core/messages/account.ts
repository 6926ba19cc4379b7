import { htmlMessage, type Message } from './html'
import type { AccountOccasion } from './occasions'

/** Mails to somebody about their own sign-up. */

export interface AccountFields {
  name: string
  workspace: string
  /** Where the link in the mail leads. */
  link: string
}

const wordings: Record<AccountOccasion, (fields: AccountFields) => { subject: string, opening: string, closing: string }> = {
  confirmAddress: ({ name, workspace, link }) => ({
    subject: `Confirm your address for ${workspace}`,
    opening: `Hello ${name},\n\nPlease confirm that this address is yours. Clients see the pages of ${workspace} as soon as you have.\n\nIf you did not sign up, you can ignore this mail: everything entered with an address that nobody confirms is deleted after seven days.`,
    closing: `Confirm this address: ${link}`,
  }),
  addressKnown: ({ name, link }) => ({
    subject: 'You have signed up already',
    opening: `Hello ${name},\n\nSomebody, perhaps you, has just signed up with this address. It already belongs to a workspace, so nothing has changed there.`,
    closing: `Sign in to it here: ${link}`,
  }),
}

export function renderAccountMessage(occasion: AccountOccasion, fields: AccountFields): Message {
  const line = (text: string) => text.replace(/\s+/g, ' ').trim()
  const { subject, opening, closing } = wordings[occasion]({ name: line(fields.name), workspace: line(fields.workspace), link: fields.link })
  return { subject: line(subject), text: `${opening}\n\n${closing}\n`, html: htmlMessage(subject, opening, [], closing) }
}
