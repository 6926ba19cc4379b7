import { z } from 'zod'
import { accountViewSchema, deviceSchema, invitationViewSchema, signedInSchema, workspaceChoiceSchema } from '../../../core/views/desk'
import {
  acceptSchema,
  beginSchema,
  codeSchema,
  confirmSchema,
  forgottenPasswordSchema,
  invitationQuerySchema,
  newAddressSchema,
  newPasswordSchema,
  newWorkspaceSchema,
  passwordAndCodeSchema,
  passwordSchema,
  preferencesSchema,
  refuseSchema,
  signInSchema,
  signUpSchema,
  tokenSchema,
} from '../requests'
import { type Call, missing, bad, limited, text, done, anybody } from './call'

/** Signing in and up, invitations, and the workspaces of one person. */

export const accountCalls = {
  'POST /api/desk/sign-in': {
    summary: 'Sign a member in; the answer sets a cookie',
    body: signInSchema,
    ...anybody,
    problems: { ...bad, ...limited, 422: 'Address and password do not belong together, or the code of the second factor is needed or wrong' },
  },
  'POST /api/desk/sign-out': { summary: 'End this browser’s session', answer: done('signedOut') },
  'POST /api/desk/sign-up': {
    summary: 'A new workspace with its owner; the answer sets a cookie, and a mail asks to confirm the address',
    body: signUpSchema,
    ...anybody,
    problems: { ...bad, ...limited, 422: 'The password is easy to guess' },
  },
  'POST /api/desk/confirm': {
    summary: 'Confirm an address by the mailed token, as its signed-in member or with the password',
    body: confirmSchema,
    ...anybody,
    problems: { ...missing, ...bad, ...limited, 409: 'The address belongs to another member', 422: 'The password is needed or wrong' },
  },
  'POST /api/desk/confirm/send': {
    summary: 'Mail the confirmation again',
    right: 'seeSessions',
    answer: done('sent'),
    problems: { ...limited, 409: 'The address is confirmed already' },
  },
  'POST /api/desk/confirm/refuse': {
    summary: 'Delete what somebody else has signed up with this address',
    body: refuseSchema,
    answer: done('refused'),
    problems: { ...missing, ...bad, ...limited },
  },
  'POST /api/desk/password/forgotten': {
    summary: 'Mail a link to a new password to a member’s address; the answer does not say whether there is one',
    body: forgottenPasswordSchema,
    answer: done('sent'),
    problems: { ...bad, ...limited },
  },
  'POST /api/desk/password/new': {
    summary: 'Set a new password by the mailed token and end all sessions; the answer signs in, but where a second factor is to be given',
    body: newPasswordSchema,
    answer: z.strictObject({ member: signedInSchema.nullable() }),
    problems: { ...missing, ...bad, ...limited, 422: 'The password is easy to guess' },
  },
  'GET /api/desk/invitation': {
    summary: 'What the link of an invitation shows to whoever follows it',
    query: invitationQuerySchema,
    answer: invitationViewSchema,
    problems: { ...missing, ...limited },
  },
  'POST /api/desk/invitation': {
    summary: 'Accept an invitation by the mailed token; the answer sets a cookie',
    body: acceptSchema,
    ...anybody,
    problems: { ...missing, ...bad, ...limited, 409: 'It is over, somebody else is signed in, or one has to sign in first', 422: 'The password is needed, wrong or easy to guess' },
  },
  'GET /api/desk/workspaces': {
    summary: 'The workspaces one is a member of', right: 'seePeople', answer: z.array(workspaceChoiceSchema),
  },
  'POST /api/desk/workspaces': {
    summary: 'Create another workspace of one’s own and go on in it; the answer sets a cookie',
    right: 'seePeople',
    body: newWorkspaceSchema,
    ...anybody,
    problems: { ...bad, ...limited, 409: 'The own address is not confirmed' },
  },
  'POST /api/desk/workspaces/{id}/enter': {
    summary: 'Go on in another workspace; the answer sets a cookie', right: 'seePeople', ...anybody, problems: missing,
  },
  'GET /api/desk/account': { summary: 'One’s own account', right: 'seePeople', answer: accountViewSchema, problems: missing },
  'GET /api/desk/account/devices': {
    summary: 'Where one is signed in, in all workspaces', right: 'seePeople', answer: z.array(deviceSchema), problems: missing,
  },
  'DELETE /api/desk/account/devices/{device}': {
    summary: 'Sign one device out', right: 'seePeople', answer: done('ended'), problems: missing,
  },
  'POST /api/desk/account/devices/end-others': {
    summary: 'Sign out everywhere but here', right: 'seePeople', answer: done('ended'), problems: missing,
  },
  'POST /api/desk/account/second-factor': {
    summary: 'Make a secret for an authenticator; it counts once a code of it is confirmed',
    right: 'seePeople',
    body: passwordSchema,
    answer: z.strictObject({ secret: text, uri: text }),
    problems: { ...bad, ...limited, 409: 'The address is not confirmed, or it is on already', 422: 'The password is wrong' },
  },
  'POST /api/desk/account/second-factor/confirm': {
    summary: 'Turn the second factor on by a first code; the answer holds the recovery codes, this once',
    right: 'seePeople',
    body: codeSchema,
    answer: z.strictObject({ recoveryCodes: z.array(text) }),
    problems: { ...bad, ...limited, 422: 'The code is wrong' },
  },
  'POST /api/desk/account/second-factor/end': {
    summary: 'Turn the second factor off',
    right: 'seePeople',
    body: passwordAndCodeSchema,
    answer: done('ended'),
    problems: { ...bad, ...limited, 422: 'The password or the code is wrong' },
  },
  'POST /api/desk/account/address': {
    summary: 'Ask for another address; the old and the new one each get a link to agree by',
    right: 'seePeople',
    body: newAddressSchema,
    answer: done('sent'),
    problems: { ...bad, ...limited, 409: 'The present address is not confirmed', 422: 'The password is wrong' },
  },
  'DELETE /api/desk/account/address': { summary: 'Drop a change of address', right: 'seePeople', answer: done('dropped') },
  'POST /api/desk/account-address/confirm': {
    summary: 'Agree to a change of address by the token mailed to one of the two addresses',
    body: tokenSchema,
    answer: z.strictObject({ state: z.enum(['changed', 'waiting']), email: text }),
    problems: { ...missing, ...bad, ...limited, 409: 'The address belongs to another member' },
  },
  'PUT /api/desk/me': { summary: 'Set one’s own zone and clock', right: 'seeSessions', body: preferencesSchema, ...anybody, problems: bad },
  'GET /api/desk/me': { summary: 'Who is signed in', right: 'seeSessions', answer: signedInSchema },
  'POST /api/desk/begin': {
    summary: 'Set the member’s hours and open a first event type in them, once',
    right: 'changeEventTypes',
    body: beginSchema,
    answer: z.strictObject({ id: text, page: text }),
    problems: { ...bad, ...missing, 409: 'There is an event type already; `created` leads to it' },
  },
} as const satisfies Record<string, Call>
