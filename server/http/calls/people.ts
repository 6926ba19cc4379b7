import { z } from 'zod'
import { peopleViewSchema } from '../../../core/views/desk'
import { freeBusySchema, hostAddressesSchema, hostViewSchema } from '../../../core/views/host'
import { changedHostSchema, defaultHoursSchema, invitationSchema, newHostSchema, roleSchema } from '../requests'
import { type Call, missing, bad, limited, done, madeSchema, overtaken, savedSchema } from './call'

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
    right: 'seePeople', subject: { kind: 'member', needs: 'own' },
    answer: leftSchema,
    problems: { ...missing, 409: 'It is the last owner' },
  },
  'DELETE /api/desk/people/hosts/{id}': {
    summary: 'Take a host out who does not sign in', right: 'changePeople', answer: leftSchema, problems: missing,
  },
  'GET /api/desk/hosts/{id}': {
    summary: 'One host: profile, hours, video account, sessions to come and shares, as far as the member may see them',
    right: 'seePeople', answer: hostViewSchema, problems: missing,
  },
  'POST /api/desk/hosts/{id}': {
    summary: 'Change a host’s profile over the version it was read in: a host their own, others everyone’s',
    right: 'seePeople', subject: { kind: 'host', needs: 'own' }, body: changedHostSchema, answer: savedSchema,
    problems: { ...bad, ...missing, ...overtaken, 422: 'The address is another host’s' },
  },
  'POST /api/desk/hosts/{id}/default-hours': {
    summary: 'Choose which hours plan applies to a host by default: one of theirs, or one of the workspace',
    right: 'seePeople', subject: { kind: 'host', needs: 'own' }, body: defaultHoursSchema, answer: done('saved'),
    problems: { ...bad, ...missing },
  },
  'GET /api/desk/hosts/{id}/addresses': {
    summary: 'The secret addresses at which other programs read a host’s sessions, and when they are busy',
    right: 'seePeople', subject: { kind: 'host', needs: 'own' }, answer: hostAddressesSchema, problems: missing,
  },
  'POST /api/desk/hosts/{id}/addresses': {
    summary: 'Make both addresses anew: those before lead nowhere from then on',
    right: 'seePeople', subject: { kind: 'host', needs: 'own' }, answer: hostAddressesSchema, problems: missing,
  },
  'PUT /api/desk/hosts/{id}/free-busy': {
    summary: 'Decide whether a host’s free/busy address also says when their calendars take their time',
    right: 'seePeople', subject: { kind: 'host', needs: 'own' }, body: freeBusySchema, answer: hostAddressesSchema, problems: { ...bad, ...missing },
  },
  'PUT /api/desk/hosts/{id}/picture': {
    summary: 'Set a host’s picture, which is cut to a square and loses what the camera wrote into it',
    right: 'seePeople', subject: { kind: 'host', needs: 'own' }, upload: ['image/jpeg', 'image/png', 'image/webp'],
    answer: z.strictObject({ picture: z.string() }),
    problems: { ...missing, 413: 'It has more than 8 MB', 422: 'It is no JPEG, PNG or WebP picture, or it is too large' },
  },
  'DELETE /api/desk/hosts/{id}/picture': {
    summary: 'Take a host’s picture away', right: 'seePeople', subject: { kind: 'host', needs: 'own' },
    answer: done('deleted'), problems: missing,
  },
  'POST /api/desk/people/hosts': {
    summary: 'Add a host who does not sign in', right: 'changePeople', body: newHostSchema, answer: madeSchema, problems: bad,
  },
} as const satisfies Record<string, Call>
