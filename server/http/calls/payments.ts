import { z } from 'zod'
import { paymentConnectionsSchema } from '../../../core/views/connections'
import { credentialsSchema, markedPaymentSchema } from '../requests'
import { bad, type Call, done, limited, missing, text } from './call'

/** The account that a workspace is paid to, and what is paid at sessions. */

export const paymentsCalls = {
  'GET /api/desk/payments': {
    summary: 'The payment services of this installation, and the account that clients pay to',
    right: 'changeEventTypes', answer: paymentConnectionsSchema,
  },
  'POST /api/desk/payments/{service}/connect': {
    summary: 'Connect the account that clients pay to by credentials, which are tried first; it takes the place of the one there is',
    right: 'connectPayments', body: credentialsSchema, answer: z.strictObject({ label: text }),
    problems: { ...bad, ...missing, ...limited, 502: 'The payment service did not do as it was asked' },
  },
  'POST /api/desk/payments/disconnect': {
    summary: 'Disconnect the account: nothing new is paid to it, and what was paid can still be paid back',
    right: 'connectPayments', answer: done('disconnected'), problems: missing,
  },
  'POST /api/desk/bookings/{id}/payment': {
    summary: 'Mark what is paid at the session as paid, or as not paid after all',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' }, body: markedPaymentSchema, answer: done('marked'),
    problems: { ...bad, ...missing, 409: 'Nothing is to be paid there, or the booking has ended' },
  },
  'POST /api/desk/bookings/{id}/refund': {
    summary: 'Try at once to pay back what could not be paid back so far',
    right: 'changeSessions', subject: { kind: 'booking', needs: 'change' }, answer: done('tried'),
    problems: { ...missing, 409: 'Nothing is to be paid back' },
  },
} as const satisfies Record<string, Call>
