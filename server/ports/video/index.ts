/** The way out to video services: what the application needs of one, whoever it is. */

export interface RoomRequest {
  /** The same reference always leads to the same room, however often it is asked for. */
  reference: string
  title: string
  /** Seconds since the epoch. */
  start: number
  end: number
  entry: 'host' | 'open'
}

export interface RoomDetails {
  externalId: string
  number: string
  passcode: string
  joinUrl: string
  hostUrl: string
}

export interface AccountTokens {
  accessToken: string
  refreshToken: string
  /** Seconds since the epoch. */
  expiresAt: number
}

export interface ConnectedAccount {
  tokens: AccountTokens
  label: string
}

export interface VideoService {
  name: string
  /** Where a member gives consent; the service sends them back with a code. */
  consentUrl: (redirectUri: string, state: string) => string
  exchangeCode: (code: string, redirectUri: string) => Promise<ConnectedAccount>
  /** Whether tokens are to be renewed before they are used. */
  isExpiring: (tokens: AccountTokens, now: number) => boolean
  renew: (tokens: AccountTokens) => Promise<AccountTokens>
  makeRoom: (tokens: AccountTokens, request: RoomRequest) => Promise<RoomDetails>
  /**
   * Withdraws every room of a reference, whether or not its id is known here. Resolves to whether there was one.
   */
  withdrawRoom: (tokens: AccountTokens, room: { reference: string, externalId: string | null }) => Promise<boolean>
}

/**
 * `consentLost`: only a person can mend it, by connecting the account again. `tokenRefused`: the tokens are to be
 * renewed. `other`: the same may go through later, or once the operator has mended the settings.
 */
export type VideoFaultKind = 'consentLost' | 'tokenRefused' | 'other'

/** A call that failed. The message completes the sentence "the service …". */
export class VideoFault extends Error {
  constructor(message: string, readonly kind: VideoFaultKind = 'other') {
    super(message)
    this.name = 'VideoFault'
  }

  get consentLost(): boolean {
    return this.kind === 'consentLost'
  }
}

export interface VideoPorts {
  lantern: VideoService | null
}
