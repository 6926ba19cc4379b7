/**
 * `waiting`: somebody at the service has to approve this application first; `lost`: only connecting it again helps;
 * `disconnected`: a person took it away, and it is only used to withdraw what was made under it.
 */
export const accountStates = ['connected', 'waiting', 'lost', 'disconnected'] as const
export type VideoAccountState = (typeof accountStates)[number]

/** Whether an account makes rooms at present: `full` where its service allows no more of them. */
export const accountConditions = ['works', 'waiting', 'lost', 'refused', 'full'] as const
export type AccountCondition = (typeof accountConditions)[number]

/** What an account may have, as far as its service says: rooms at once, and how many there are. */
export interface RoomAllowance {
  rooms: number | null
  roomsUsed: number
}

export function isFull(allowance: RoomAllowance | null): boolean {
  return allowance !== null && allowance.rooms !== null && allowance.roomsUsed >= allowance.rooms
}

/** How an account is that nobody has taken away. */
export function conditionOf(
  { state, refusal, plan }: { state: VideoAccountState, refusal: unknown, plan: RoomAllowance | null },
): AccountCondition {
  if (state === 'waiting' || state === 'lost') return state
  if (refusal) return 'refused'
  return isFull(plan) ? 'full' : 'works'
}
