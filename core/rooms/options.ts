import { z } from 'zod'

/** What a room is like for those who come into it. A service may not be able to do all of it. */

export const roomOptionsSchema = z.strictObject({
  /** Whether the host lets people in, or whoever has the link comes in. */
  entry: z.enum(['host', 'open']).prefault('host'),
  passcode: z.boolean().prefault(true),
  /** Whether people are muted when they come in. */
  muted: z.boolean().prefault(false),
  cameras: z.strictObject({ host: z.boolean(), clients: z.boolean() }).prefault({ host: true, clients: true }),
  /** How long before the start clients may come in without the host. Minutes. */
  earlyMinutes: z.int().min(0).max(60).prefault(0),
})
export type RoomOptions = z.infer<typeof roomOptionsSchema>

/** What a service may or may not be able to do. */
export const roomAbilities = ['waitingRoom', 'openEntry', 'withoutPasscode', 'muting', 'cameras', 'earlyEntry'] as const
export type RoomAbility = (typeof roomAbilities)[number]

/** What these options ask of a service. */
export function abilitiesFor({ entry, passcode, muted, cameras, earlyMinutes }: RoomOptions): RoomAbility[] {
  const needs: Record<RoomAbility, boolean> = {
    waitingRoom: entry === 'host',
    openEntry: entry === 'open',
    withoutPasscode: !passcode,
    muting: muted,
    cameras: !cameras.host || !cameras.clients,
    earlyEntry: earlyMinutes > 0,
  }
  return roomAbilities.filter(ability => needs[ability])
}
