import { connectionsSchema } from '../../../core/views/desk'
import { connectQuerySchema, consentQuerySchema } from '../requests'
import { type Call, missing, bad, done, sentOn } from './call'

/** Video accounts. */

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
  'GET /api/desk/video-services/{service}/connect': {
    summary: 'Send a member on to a video service to give consent',
    right: 'connectAccounts',
    query: connectQuerySchema,
    ...sentOn,
    problems: { ...bad, ...missing },
  },
  'GET /api/desk/video-services/{service}/return': {
    summary: 'Where a video service sends a member back to',
    right: 'connectAccounts',
    query: consentQuerySchema,
    ...sentOn,
    problems: bad,
  },
} as const satisfies Record<string, Call>
