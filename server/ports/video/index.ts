import type { Fault } from '../../../core/faults'

/** The way out to video services: what the application needs of any of them, and what a service can do. */

export interface RoomRequest {
  /** The same reference always leads to the same room, however often it is asked for. */
  reference: string
  title: string
  /** Seconds since the epoch. */
  start: number
  end: number
  entry: 'host' | 'open'
}

/** A room. Not every service has numbers, passcodes or links for hosts: a join link is enough. */
export interface RoomDetails {
  externalId: string
  joinUrl: string
  hostUrl: string | null
  number: string | null
  passcode: string | null
}

/** What a service is reached with under one account: text that only the service itself can read, sealed where it is stored. */
export type Credentials = string

export interface ConnectedAccount {
  credentials: Credentials
  /** Who it is connected as, in the service's own words. */
  label: string
}

/** How an account is connected: by consent given on the service's own pages. */
export interface ConsentConnection {
  way: 'consent'
  /** Where a member gives consent; the service sends them back with a code. */
  consentUrl: (redirectUri: string, state: string) => string
  /** Throws VideoFault. */
  exchangeCode: (code: string, redirectUri: string) => Promise<ConnectedAccount>
}

/** Credentials that expire and are exchanged for new ones. */
export interface Renewal {
  isDue: (credentials: Credentials, now: number) => boolean
  /** Throws VideoFault. */
  renew: (credentials: Credentials) => Promise<Credentials>
}

export interface VideoService {
  name: string
  connection: ConsentConnection
  /** Null where credentials hold until they are taken back. */
  renewal: Renewal | null
  /** Waits no longer than `mostSeconds` for an answer. Throws VideoFault. */
  makeRoom: (credentials: Credentials, request: RoomRequest, mostSeconds?: number) => Promise<RoomDetails>
  /** Withdraws every room of a reference, whether or not its id is known here. Resolves to whether there was one. Throws VideoFault. */
  withdrawRoom: (credentials: Credentials, room: { reference: string, externalId: string | null }) => Promise<boolean>
}

/** The services of this installation by the key that accounts are stored with. */
export type VideoServices = ReadonlyMap<string, VideoService>

/**
 * `accessLost`: only a person can mend it, by connecting the account again. `credentialsRefused`: they are to be renewed.
 * `other`: the same may go through later, or once the operator has mended the settings.
 */
export type VideoFaultKind = 'accessLost' | 'credentialsRefused' | 'other'

/** A call that failed. */
export class VideoFault extends Error {
  constructor(readonly fault: Fault, readonly kind: VideoFaultKind = 'other') {
    super(fault.code)
    this.name = 'VideoFault'
  }
}
