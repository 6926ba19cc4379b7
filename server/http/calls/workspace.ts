import { workspaceSettingsSchema, workspaceSettingsViewSchema } from '../../../core/workspace'
import { deletionSchema } from '../requests'
import { bad, type Call, done, limited, missing } from './call'

/** The workspace as a whole. */

export const workspaceCalls = {
  'GET /api/desk/workspace': {
    summary: 'Name, address, zone and rules of the workspace', right: 'seePeople', answer: workspaceSettingsViewSchema, problems: missing,
  },
  'PUT /api/desk/workspace': {
    summary: 'Change them; an earlier address goes on leading to the workspace', right: 'changeWorkspace',
    body: workspaceSettingsSchema, answer: done('saved'), problems: { ...bad, 422: 'The address is another workspace’s, or reserved' },
  },
  'POST /api/desk/workspace/deletion': {
    summary: 'Have the workspace deleted in 30 days; until then nobody books, and it can be taken back',
    right: 'changeWorkspace', body: deletionSchema, answer: done('asked'),
    problems: { ...bad, ...limited, 422: 'The password or the address is another' },
  },
  'DELETE /api/desk/workspace/deletion': {
    summary: 'Keep a workspace that was to be deleted', right: 'changeWorkspace', answer: done('kept'),
  },
} as const satisfies Record<string, Call>
