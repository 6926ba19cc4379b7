import type { AccountOccasion } from '../messages/occasions'

/** What happens to a member's own account, and which mails follow from it. */

interface AccountChangeRow {
  /** The mail to an address that nobody has confirmed yet, and to one that belongs to a member already. */
  addressNew: AccountOccasion | null
  addressKnown: AccountOccasion | null
}

export const accountChangeTable = {
  signedUp: { addressNew: 'confirmAddress', addressKnown: 'addressKnown' },
  passwordForgotten: { addressNew: 'resetPassword', addressKnown: 'resetPassword' },
  invited: { addressNew: 'invited', addressKnown: 'invited' },
  /** To a host whose calendar or video account is missing. */
  connectionAsked: { addressNew: 'connectionAsked', addressKnown: 'connectionAsked' },
  /** One mail to the old address (known), and one to the new. */
  addressChangeAsked: { addressNew: 'newAddress', addressKnown: 'oldAddress' },
  /** To every member of a workspace that is going to be deleted. */
  deletionAsked: { addressNew: 'deletionAsked', addressKnown: 'deletionAsked' },
  confirmationRequested: { addressNew: 'confirmAddress', addressKnown: 'addressKnown' },
} as const satisfies Record<string, AccountChangeRow>

/** How long the links to a change of address hold. */
export const addressChangeSeconds = 24 * 3600

/** How long the link to a new password holds. */
export const passwordResetSeconds = 3600

export type AccountChangeKind = keyof typeof accountChangeTable
