/**
 * `waiting`: somebody at the service has to approve this application first; `lost`: only connecting it again helps;
 * `disconnected`: a person took it away, and it is only used to withdraw what was made under it.
 */
export const accountStates = ['connected', 'waiting', 'lost', 'disconnected'] as const
export type VideoAccountState = (typeof accountStates)[number]
