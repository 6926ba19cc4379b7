import { z } from 'zod'
import { peopleViewSchema } from '../../../core/views/desk'
import { invitationSchema, newHostSchema, roleSchema } from '../requests'
import { type Call, missing, bad, limited, done, madeSchema } from './call'

/** The event types that were closed by it. */
const leftSchema = z.strictObject({ closed: z.array(z.string()) })

/** Who belongs to a workspace. */

export const peopleCalls = {
  'GET /api/desk/people': { summary: 'Members, invitations that wait, and hosts who do not sign in', right: 'seePeople', answer: peopleViewSchema },
  'POST /api/desk/people/invitations': {
    summary: 'Invite somebody by mail; the link holds for 30 days',
    right: 'changePeople',
    body: invitationSchema,
    answer: madeSchema,
    problems: { ...bad, ...limited, 409: 'The own address is not confirmed', 422: 'The address is a member’s, or is invited already' },
  },
  'POST /api/desk/people/invitations/{id}/send': {
    summary: 'Mail an invitation again, and let it wait another 30 days',
    right: 'changePeople',
    answer: done('sent'),
    problems: { ...missing, ...limited },
  },
  'DELETE /api/desk/people/invitations/{id}': {
    summary: 'Withdraw an invitation', right: 'changePeople', answer: done('withdrawn'), problems: missing,
  },
  'POST /api/desk/people/members/{id}/role': {
    summary: 'Give a member another role',
    right: 'changePeople',
    body: roleSchema,
    answer: roleSchema,
    problems: { ...bad, ...missing, 409: 'It is the last owner' },
  },
  'DELETE /api/desk/people/members/{id}': {
    summary: 'Leave the workspace, or as owner take a member out of it; event types that nobody else hosts are closed',
    right: 'seePeople',
    answer: leftSchema,
    problems: { ...missing, 409: 'It is the last owner' },
  },
  'DELETE /api/desk/people/hosts/{id}': {
    summary: 'Take a host out who does not sign in', right: 'changePeople', answer: leftSchema, problems: missing,
  },
  'POST /api/desk/people/hosts': {
    summary: 'Add a host who does not sign in', right: 'changePeople', body: newHostSchema, answer: madeSchema, problems: bad,
  },
} as const satisfies Record<string, Call>
