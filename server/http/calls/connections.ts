import { z } from 'zod'
import { connectionsSchema } from '../../../core/views/connections'
import { acceptedAccountSchema, connectQuerySchema, consentQuerySchema, credentialsSchema } from '../requests'
import { type Call, missing, bad, done, sentOn } from './call'

/** Video accounts. */

const refusedThere = { 502: 'The video service did not do as it was asked' }

export const connectionsCalls = {
  'GET /api/desk/connections': {
    summary: 'Under whose video account each host’s rooms are made',
    right: 'connectAccounts',
    answer: connectionsSchema,
  },
  'POST /api/desk/connections/{id}/disconnect': {
    summary: 'Disconnect a video account',
    right: 'connectAccounts', subject: { kind: 'account', needs: 'own' },
    answer: done('disconnected'),
    problems: missing,
  },
  'POST /api/desk/connections/{id}/look': {
    summary: 'Ask its service at once whether an account still works, what it is allowed and who its users are',
    right: 'connectAccounts', subject: { kind: 'account', needs: 'own' },
    answer: done('looked'),
    problems: missing,
  },
  'PUT /api/desk/connections/{id}/users/{host}': {
    summary: 'Have the service invite a host, by mail, to be a user of the workspace’s account, or invite them again',
    right: 'connectWorkspace', subject: { kind: 'account', needs: 'own' },
    answer: z.strictObject({ until: z.int().nullable() }),
    problems: { ...missing, ...refusedThere },
  },
  'DELETE /api/desk/connections/{id}/users/{host}': {
    summary: 'Withdraw such an invitation',
    right: 'connectWorkspace', subject: { kind: 'account', needs: 'own' },
    answer: done('withdrawn'),
    problems: { ...missing, ...refusedThere },
  },
  'POST /api/desk/connections/hosts/{id}/ask': {
    summary: 'Ask a host by mail to connect their calendar and video account',
    right: 'connectWorkspace', subject: { kind: 'host', needs: 'own' },
    answer: done('asked'),
    problems: { ...missing, 429: 'A mail has just gone out' },
  },
  'GET /api/desk/video-services/{service}/connect': {
    summary: 'Send a member on to a video service to give consent',
    right: 'connectAccounts',
    query: connectQuerySchema,
    ...sentOn,
    problems: { ...bad, ...missing },
  },
  'POST /api/desk/video-services/{service}/connect': {
    summary: 'Connect the workspace’s account at a service by credentials, which are tried first',
    right: 'connectWorkspace', body: credentialsSchema,
    answer: z.strictObject({ label: z.string() }),
    problems: { ...bad, ...missing, ...refusedThere },
  },
  'POST /api/desk/video-services/{service}/accept': {
    summary: 'Connect an account whose address is not the host’s, once the member has said that it is theirs',
    right: 'connectAccounts', body: acceptedAccountSchema,
    answer: done('connected'),
    problems: bad,
  },
  'GET /api/desk/video-services/{service}/return': {
    summary: 'Where a video service sends a member back to',
    right: 'connectAccounts',
    query: consentQuerySchema,
    ...sentOn,
    problems: bad,
  },
} as const satisfies Record<string, Call>
