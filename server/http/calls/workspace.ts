import { workspaceSettingsSchema, workspaceSettingsViewSchema } from '../../../core/workspace'
import { bad, type Call, done, missing } from './call'

/** The workspace as a whole. */

export const workspaceCalls = {
  'GET /api/desk/workspace': {
    summary: 'Name, address, zone and rules of the workspace', right: 'seePeople', answer: workspaceSettingsViewSchema, problems: missing,
  },
  'PUT /api/desk/workspace': {
    summary: 'Change them; an earlier address goes on leading to the workspace', right: 'changePeople',
    body: workspaceSettingsSchema, answer: done('saved'), problems: { ...bad, 422: 'The address is another workspace’s, or reserved' },
  },
} as const satisfies Record<string, Call>
