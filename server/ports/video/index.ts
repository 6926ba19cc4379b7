import type { RoomAbility, RoomOptions } from '../../../core/rooms/options'

export { ServiceFault, type ServiceFaultKind } from '../service'

/** The way out to video services: what the application needs of any of them, and what a service can do. */

export interface RoomPerson {
  name: string
  email: string
}

export interface RoomRequest {
  /** The same reference always leads to the same room, however often it is asked for. */
  reference: string
  title: string
  /** Seconds since the epoch. */
  start: number
  end: number
  options: RoomOptions
  hosts: readonly RoomPerson[]
  attendees: readonly RoomPerson[]
  /** Of an account with users, the one it is made for by the service's own id; its main user where it is null. */
  user: string | null
}

/** A room. Not every service has numbers, passcodes or links for hosts: a join link is enough. */
export interface RoomDetails {
  externalId: string
  joinUrl: string
  hostUrl: string | null
  number: string | null
  passcode: string | null
}

/** A room as its service has it, without the ways in. */
export interface RoomAtService {
  externalId: string
  reference: string
  title: string
  start: number
  end: number
}

/** What a service is reached with under one account: text that only the service itself can read, sealed where it is stored. */
export type Credentials = string

export interface ConnectedAccount {
  credentials: Credentials
  /** Who it is connected as, in the service's own words. */
  label: string
  /** The person's address at the service; null for an account that is no person's. */
  email: string | null
}

/** What an account is allowed, as far as the service says so. */
export interface AccountPlan {
  /** Rooms that may exist at once, and how many do. */
  rooms: number | null
  roomsUsed: number
  /** The longest session, in minutes, and the most people in a room. */
  minutes: number | null
  people: number | null
}

export interface AccountState {
  /** Whether somebody at the service must approve this application first. */
  waiting: boolean
  plan: AccountPlan
}

/** How an account is connected: by consent given on the service's own pages. */
export interface ConsentConnection {
  way: 'consent'
  /** Where a member gives consent; the service sends them back with a code. */
  consentUrl: (redirectUri: string, state: string) => string
  /** Throws ServiceFault. */
  exchangeCode: (code: string, redirectUri: string) => Promise<ConnectedAccount>
}

/** How an account is connected: by credentials that are typed in. */
export interface CredentialsConnection {
  way: 'credentials'
  /** What is asked for, in this order; `isSecret` is never shown again. */
  fields: readonly { key: string, label: string, isSecret: boolean }[]
  /** Asks the service whether they are right. Throws ServiceFault. */
  tryCredentials: (fields: Readonly<Record<string, string>>) => Promise<ConnectedAccount>
}

/** Credentials that expire and are exchanged for new ones. */
export interface Renewal {
  isDue: (credentials: Credentials, now: number) => boolean
  /** Throws ServiceFault. */
  renew: (credentials: Credentials) => Promise<Credentials>
}

/** Somebody whom rooms of an account can be made for. */
export interface ServiceUser {
  id: string
  email: string
  isMain: boolean
  /** Until when the invitation can be accepted, in seconds since the epoch; null for those who are users. */
  invitedUntil: number | null
}

/** The users of an account, where a service has them. All throw ServiceFault. */
export interface UserDirectory {
  list: (credentials: Credentials) => Promise<ServiceUser[]>
  /** Sends an invitation by mail, or once more. */
  invite: (credentials: Credentials, person: RoomPerson) => Promise<ServiceUser>
  withdraw: (credentials: Credentials, userId: string) => Promise<void>
}

export interface VideoService {
  name: string
  /** Whose accounts they are: each host's own, or one of the workspace. */
  owner: 'host' | 'workspace'
  connection: ConsentConnection | CredentialsConnection
  /** Null where credentials hold until they are taken back. */
  renewal: Renewal | null
  users: UserDirectory | null
  can: readonly RoomAbility[]
  /** Calls that it takes at once from this installation. */
  callsAtOnce: number
  /** Throws ServiceFault. */
  readAccount: (credentials: Credentials) => Promise<AccountState>
  /** Waits no longer than `mostSeconds` for an answer. Throws ServiceFault. */
  makeRoom: (credentials: Credentials, request: RoomRequest, mostSeconds?: number) => Promise<RoomDetails>
  /** Compares a room with what it should be, and changes what differs. Throws ServiceFault. */
  changeRoom: (credentials: Credentials, externalId: string, request: RoomRequest) => Promise<'same' | 'changed' | 'gone'>
  /** All rooms of the account. Throws ServiceFault. */
  listRooms: (credentials: Credentials) => Promise<RoomAtService[]>
  /** Withdraws one room; one that is gone counts as withdrawn. Throws ServiceFault. */
  withdrawRoom: (credentials: Credentials, externalId: string) => Promise<void>
}

/** The services of this installation by the key that accounts are stored with. */
export type VideoServices = ReadonlyMap<string, VideoService>
