import { htmlMessage, type Message, partsOf } from './html'
import { markValue } from './marked-text'
import type { AccountOccasion } from './occasions'

/**
 * Mails to somebody about their own sign-up. Anybody may cause them with an address that is not theirs, so little in them
 * is what somebody typed.
 */

export interface AccountFields {
  workspace: string
  /** Who invites, or asked for the deletion. */
  by: string
  /** The day of the deletion. */
  day: string
  /** Where the link in the mail leads. */
  link: string
}

const wordings: Record<AccountOccasion, (fields: AccountFields) => { subject: string, opening: string, closing: string }> = {
  confirmAddress: ({ workspace, link }) => ({
    subject: 'Confirm your address',
    opening: `Hello,\n\nPlease confirm that this address is yours. Clients see the pages of ${workspace} as soon as you have.\n\nIf you did not sign up, you can ignore this mail: everything entered with an address that nobody confirms is deleted after seven days.`,
    closing: `Confirm this address: ${link}`,
  }),
  addressKnown: ({ link }) => ({
    subject: 'You have signed up already',
    opening: `Hello,\n\nSomebody, perhaps you, has just signed up with this address. It already belongs to a workspace, so nothing has changed there.`,
    closing: `Sign in to it here: ${link}`,
  }),
  invited: ({ workspace, by, link }) => ({
    subject: `${by} invites you to ${workspace}`,
    opening: `Hello,\n\n${by} would like you to join ${workspace} on Temporia, where clients book their meetings with you.\n\nThe link below holds for 30 days. If you do not know ${by}, you can ignore this mail.`,
    closing: `Accept the invitation: ${link}`,
  }),
  oldAddress: ({ link }) => ({
    subject: 'Agree to a new address',
    opening: `Hello,\n\nSomebody, perhaps you, has asked to sign in with another address instead of this one. That happens only if both addresses agree within a day.\n\nIf it was not you, do not follow the link: your address stays as it is. Change your password, since whoever asked knows it.`,
    closing: `Agree to the change: ${link}`,
  }),
  newAddress: ({ link }) => ({
    subject: 'Confirm your new address',
    opening: `Hello,\n\nSomebody, perhaps you, would like to sign in with this address from now on. Both this address and the present one have to agree within a day.\n\nIf it was not you, you can ignore this mail.`,
    closing: `Confirm this address: ${link}`,
  }),
  deletionAsked: ({ workspace, by, day, link }) => ({
    subject: `${workspace} will be deleted on ${day}`,
    opening: `Hello,\n\n${by} has asked for ${workspace} to be deleted on ${day}, with its event types, people and bookings. Nobody can book any more. Sessions before that day take place; later ones are then cancelled, and their clients are told.\n\nUntil then any owner can keep the workspace.`,
    closing: `See the workspace: ${link}`,
  }),
  connectionAsked: ({ workspace, by, link }) => ({
    subject: `${by} asks you to connect your accounts`,
    opening: `Hello,\n\n${by} would like to book sessions for you at ${workspace}. Please connect your calendar, so that nobody books a time that is taken, and your video account, so that your sessions get their rooms. Only you can do that; it takes a minute.`,
    closing: `Connect them here: ${link}`,
  }),
  resetPassword: ({ link }) => ({
    subject: 'Choose a new password',
    opening: `Hello,\n\nSomebody, perhaps you, has asked for a new password for this address. The link below holds for one hour and works once.\n\nIf it was not you, you can ignore this mail: your password stays as it is.`,
    closing: `Choose a new password: ${link}`,
  }),
}

export function renderAccountMessage(occasion: AccountOccasion, fields: AccountFields): Message {
  const line = (text: string) => text.replace(/\s+/g, ' ').trim()
  const { subject, opening, closing } = wordings[occasion]({ ...fields, workspace: line(fields.workspace), by: line(fields.by) })
  const text = `${opening}\n\n${closing}`
  const marked = markValue(text).replaceAll(fields.link, `\0)${markValue(fields.link)}\0(`)
  return { subject, text: `${text}\n`, html: htmlMessage(subject, partsOf(marked, { facts: [], manage: null }, [fields.link])) }
}
