import type { Fault } from '../../../core/faults'

/** Services outside that are spoken to over HTTP: how their calls fail. */

/**
 * `accessLost`: only a person can mend it, by connecting the account again. `credentialsRefused`: they are to be renewed.
 * `accountRefused`: it holds for whatever is asked of the account, until something changes there. `awaitsApproval`: somebody at the
 * service has to approve this application first. `other`: the same may go through later, or once the operator has mended
 * the settings.
 */
export type ServiceFaultKind = 'accessLost' | 'credentialsRefused' | 'accountRefused' | 'awaitsApproval' | 'other'

/** A call that failed. */
export class ServiceFault extends Error {
  constructor(readonly fault: Fault, readonly kind: ServiceFaultKind = 'other') {
    super(fault.code)
    this.name = 'ServiceFault'
  }
}
