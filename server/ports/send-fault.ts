import type { Fault } from '../../core/faults'

/**
 * Why a mail or a phone text was not sent. `refused`: surely not taken, and perhaps later; `rejected`: not taken, and the service
 * says it never will; `unknown`: it may or may not have been taken.
 */
export class SendFault extends Error {
  constructor(readonly fault: Fault, readonly outcome: 'refused' | 'rejected' | 'unknown') {
    super(fault.code)
    this.name = 'SendFault'
  }
}
