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
  /** Fresh tokens where the given ones are about to expire, else null. */
  refresh: (tokens: AccountTokens, now: number) => Promise<AccountTokens | null>
  makeRoom: (tokens: AccountTokens, request: RoomRequest) => Promise<RoomDetails>
  withdrawRoom: (tokens: AccountTokens, externalId: string) => Promise<void>
}

/**
 * A call that failed. The message completes the sentence "the service …". `consentLost` means that only a person can
 * mend it, by connecting again.
 */
export class VideoFault extends Error {
  constructor(message: string, readonly consentLost = false) {
    super(message)
    this.name = 'VideoFault'
  }
}

export interface VideoPorts {
  lantern: VideoService | null
}
