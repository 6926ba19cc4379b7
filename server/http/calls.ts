import type { z } from 'zod'
import { publicCalls } from './calls/public'
import { accountCalls } from './calls/account'
import { peopleCalls } from './calls/people'
import { bookForClientCalls } from './calls/book-for-client'
import { sessionsCalls } from './calls/sessions'
import { eventTypesCalls } from './calls/event-types'
import { hoursCalls } from './calls/hours'
import { calendarsCalls } from './calls/calendars'
import { connectionsCalls } from './calls/connections'
import { workspaceCalls } from './calls/workspace'
import { messagesCalls } from './calls/messages'
import { paymentsCalls } from './calls/payments'
import { rotationCalls } from './calls/rotation'
import type { Right } from '../../core/account/rights'
import type { Call } from './calls/call'

/**
 * Every call of the HTTP interface: who may make it, what it takes and what it answers. Routes are bound to their row, and
 * the OpenAPI document is made from the rows.
 */
export const calls = {
  ...publicCalls,
  ...accountCalls,
  ...peopleCalls,
  ...sessionsCalls,
  ...bookForClientCalls,
  ...eventTypesCalls,
  ...messagesCalls,
  ...paymentsCalls,
  ...rotationCalls,
  ...workspaceCalls,
  ...hoursCalls,
  ...connectionsCalls,
  ...calendarsCalls,
} as const satisfies Record<string, Call>

export type CallName = keyof typeof calls

/** Calls that only members may make. */
export type DeskCallName = { [Name in CallName]: (typeof calls)[Name] extends { right: Right } ? Name : never }[CallName]

export type AnswerOf<Name extends CallName> = z.input<(typeof calls)[Name]['answer']>

/** The rows in their general shape. */
export const callTable: Readonly<Record<string, Call>> = calls
