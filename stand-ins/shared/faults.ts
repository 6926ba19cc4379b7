import { html, type Html } from './html'

/** Faults that can be switched on to see how others cope: each for a number of calls, or until it is switched off. */

export const faultKinds = ['none', 'slow', 'holding', 'silent', 'failing', 'refusing', 'losing', 'garbled', 'doubling', 'forgetting', 'quota'] as const
export type FaultKind = (typeof faultKinds)[number]

export interface Fault {
  kind: FaultKind
  /** How many calls it still affects; null for all until it is switched off. */
  left: number | null
  /** Delay of slow calls, in seconds. */
  seconds: number
}

export const noFault: Fault = { kind: 'none', left: null, seconds: 0 }

/** Those that every service can have; the rest only one that makes rooms. */
export const commonFaults: readonly FaultKind[] = ['none', 'slow', 'failing', 'refusing', 'losing', 'garbled']

/** Takes the fault for one call, counting it down. */
export function takeFault(holder: { fault: Fault }): Fault {
  const { fault } = holder
  if (fault.kind === 'none' || fault.left === null) return fault
  holder.fault = fault.left <= 1 ? noFault : { ...fault, left: fault.left - 1 }
  return fault
}

/** Reads a fault from a form or JSON. Throws Error with a sentence. */
export function readFault(input: Record<string, unknown>, kinds: readonly FaultKind[]): Fault {
  const kind = kinds.find(candidate => candidate === input['kind'])
  if (!kind) throw new Error(`A fault is one of ${kinds.join(', ')}`)
  const left = input['left'] === undefined || input['left'] === '' || input['left'] === null ? null : Number(input['left'])
  const seconds = input['seconds'] === undefined || input['seconds'] === '' ? 15 : Number(input['seconds'])
  if (left !== null && !(Number.isInteger(left) && left > 0)) throw new Error('The number of calls must be a whole number above 0')
  if (!(seconds >= 0 && seconds <= 300)) throw new Error('The wait must be from 0 to 300 seconds')
  return { kind, left, seconds }
}

const words: Record<FaultKind, string> = {
  none: 'None: works normally',
  slow: 'Slow: answers after a delay',
  holding: 'Holding: waits until a fault is applied here again, then does the work',
  silent: 'Silent: does not answer at all',
  failing: 'Failing: answers with temporary errors',
  refusing: 'Refusing: answers with permanent errors',
  losing: 'Losing answers: does the work, then drops the connection',
  garbled: 'Garbled: sends unreadable answers',
  doubling: 'Doubling: does the work twice',
  forgetting: 'Forgetting: answers, then loses what it has made',
  quota: 'Quota: makes nothing more',
}

export function faultPanel(fault: Fault, kinds: readonly FaultKind[]): Html {
  return html`<div class="card">
    <p>
      Current fault:
      <strong>${words[fault.kind]}</strong
      >${fault.kind !== 'none' && (fault.left === null ? ', until switched off' : `, for ${fault.left === 1 ? 'one more call' : `${fault.left} more calls`}`)}.
    </p>
    <form method="post" action="/faults">
      <label
        ><span>Fault</span
        ><select name="kind">
          ${kinds.map(kind => html`<option value="${kind}" ${kind === fault.kind && 'selected'}>${words[kind]}</option>`)}
        </select></label
      >
      <label><span>Number of calls (leave empty for until switched off)</span><input name="left" inputmode="numeric" /></label>
      <label><span>Delay of slow calls, in seconds</span><input name="seconds" inputmode="numeric" value="15" /></label>
      <button>Apply</button>
    </form>
  </div>`
}
