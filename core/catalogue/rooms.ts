import type { RoomAbility, RoomOptions } from '../rooms/options'
import type { WayKind } from '../rooms/ways'
import { formatList, plural } from '../time/format'

/** What the ways to a room are called. */
export const wayWords: Record<WayKind, string> = {
  own: 'the host’s own video account',
  workspace: 'the workspace’s video account',
  pattern: 'the workspace’s meeting server',
  fixed: 'the host’s fixed room',
  link: 'the event type’s own link',
}

/** What a service can do, as in "cannot …". */
export const abilityWords: Record<RoomAbility, string> = {
  waitingRoom: 'let the host admit people',
  openEntry: 'let everybody with the link in',
  withoutPasscode: 'do without a passcode',
  muting: 'mute people as they enter',
  cameras: 'switch cameras off at the start',
  earlyEntry: 'let clients in before the host',
}

/** Room options in words: "the host lets people in, with a passcode". */
export function describeRoomOptions({ entry, passcode, muted, cameras, earlyMinutes }: RoomOptions): string {
  const off = [...(cameras.host ? [] : ['the host’s']), ...(cameras.clients ? [] : ['clients’'])]
  return [
    entry === 'host' ? 'the host lets people in' : 'open to everybody with the link',
    passcode ? 'with a passcode' : 'without a passcode',
    ...(muted ? ['muted on entry'] : []),
    ...(off.length > 0 ? [`${formatList(off)} cameras off`] : []),
    ...(earlyMinutes > 0 ? [`clients may come in ${plural(earlyMinutes, 'minute')} before`] : []),
  ].join(', ')
}
