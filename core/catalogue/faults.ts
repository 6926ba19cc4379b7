import { formatMoney } from '../payment/money'
import type { Fault, FaultBy } from '../faults'
import { capitalise } from './capitalise'

/** What went wrong outside, in text. */

/** The predicate of a sentence whose subject is whoever met the fault: "did not answer for 10 s". */
export function describeFault(fault: Fault): string {
  switch (fault.code) {
    case 'noVideoAccount': return 'no video account is connected'
    case 'notApproved': return 'waits for the account owner’s approval'
    case 'deadLink': return 'nothing answers at the link'
    case 'sessionOver': return 'the session is over'
    case 'tooLate': return 'it was too late'
    case 'stoppedWhileSending': return 'the application stopped while sending'
    case 'unexpected': return `met an unexpected error (${fault.error})`
    case 'timeout': return `did not answer for ${fault.seconds} s`
    case 'unreachable': return 'could not be reached'
    case 'answered': return `answered ${fault.status} (${fault.reason || 'no reason given'})`
    case 'unreadable': return 'gave an answer that cannot be read'
    case 'tooLong': return 'gave an answer that is too long'
    case 'tooManyCalls': return 'has too many calls under way'
    case 'unknownInstallation': return `does not know this installation: the operator must correct ${fault.settings.join(' and ')}`
    case 'consentUnreadable': return `cannot be asked: the consent stored for ${fault.account} cannot be read any more`
    case 'mailServer': return fault.reply
    case 'textService': return fault.reply
    case 'numberUnknown': return `no phone has that number (${fault.reply})`
    case 'noPhoneTexts': return 'no service for phone texts is set up'
    case 'quietHours': return 'it would have come too late after the quiet hours'
    case 'paymentDiffers': return `says that ${formatMoney(fault, 'en-GB')} was paid, which is not what was asked for`
    case 'noPaymentService': return 'is not set up on this server any more'
    case 'brokeOff': return 'the connection broke off'
    case 'addressUnknown': return `the address does not exist (${fault.reply})`
    case 'cameBack': return `it came back (${fault.reply})`
    case 'sentence': return fault.text
  }
}

/** "Lantern Rooms did not answer for 10 s", "No video account is connected". */
export function formatFault({ by, fault }: FaultBy): string {
  const text = describeFault(fault)
  return by === null ? capitalise(text) : `${by} ${text}`
}
