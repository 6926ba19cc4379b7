import type { WayKind } from '../rooms/ways'

/** What the ways to a room are called. */
export const wayWords: Record<WayKind, string> = {
  own: 'the host’s own video account',
  workspace: 'the workspace’s video account',
  pattern: 'the workspace’s meeting server',
  fixed: 'the host’s fixed room',
  link: 'the event type’s own link',
}
