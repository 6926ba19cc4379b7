import { randomBytes, randomInt } from 'node:crypto'
import { newCallLog } from '../shared/calls'
import { StoredValue } from '../shared/stored-value'

/** What Lantern Rooms remembers: people's accounts, consents given, and rooms. */

export interface Account {
  id: string
  name: string
  email: string
  /** Whether the owner of the organisation must approve an application before it may act for the account. */
  approval: 'free' | 'needed' | 'given'
  /** Rooms that it may have at once. */
  quota: number
}

export interface Person {
  name: string
  email: string
}

export interface Grant {
  accountId: string
  accessToken: string
  refreshToken: string
  /** Seconds since the epoch. */
  expiresAt: number
}

export interface Room {
  id: string
  accountId: string
  reference: string
  title: string
  startsAt: string
  endsAt: string
  entry: 'host' | 'open'
  muted: boolean
  hosts: Person[]
  attendees: Person[]
  number: string
  passcode: string
  joinKey: string
  hostKey: string
  withdrawn: boolean
  madeAt: string
}

interface Memory {
  accounts: Account[]
  codes: Record<string, { accountId: string, redirectUri: string, expiresAt: number }>
  grants: Grant[]
  rooms: Room[]
}

export const TOKEN_SECONDS = 3600
const QUOTA = 500

export class LanternStore {
  private readonly stored: StoredValue<Memory>
  readonly log = newCallLog()

  constructor(folder: string, people: readonly Person[]) {
    const accounts = people.map(person => ({ id: person.email, ...person, ...newAccount }))
    this.stored = new StoredValue<Memory>(`${folder}/lantern.json`, { accounts, codes: {}, grants: [], rooms: [] })
  }

  get accounts(): readonly Account[] {
    return this.stored.value.accounts
  }

  account(id: string): Account | null {
    return this.accounts.find(account => account.id === id) ?? null
  }

  changeAccount(account: Account, change: Partial<Pick<Account, 'approval' | 'quota'>>): void {
    Object.assign(account, change)
    this.stored.save()
  }

  giveCode(accountId: string, redirectUri: string, now: number): string {
    const code = secret(24)
    this.stored.value.codes[code] = { accountId, redirectUri, expiresAt: now + 300 }
    this.stored.save()
    return code
  }

  /** Trades a code, once, for tokens. */
  takeCode(code: string, redirectUri: string, now: number): Grant | null {
    const found = this.stored.value.codes[code]
    if (!found || found.redirectUri !== redirectUri || found.expiresAt < now) return null
    const { [code]: _used, ...others } = this.stored.value.codes
    this.stored.value.codes = others
    return this.grant(found.accountId, now)
  }

  renew(refreshToken: string, now: number): Grant | null {
    const old = this.stored.value.grants.find(grant => grant.refreshToken === refreshToken)
    return old ? this.grant(old.accountId, now) : null
  }

  private grant(accountId: string, now: number): Grant {
    const made = { accountId, accessToken: secret(24), refreshToken: secret(24), expiresAt: now + TOKEN_SECONDS }
    this.stored.value.grants.push(made)
    this.stored.save()
    return made
  }

  accountOfToken(token: string, now: number): Account | null {
    const grant = this.stored.value.grants.find(candidate => candidate.accessToken === token && candidate.expiresAt > now)
    return grant ? this.account(grant.accountId) : null
  }

  withdrawConsent(accountId: string): void {
    this.stored.value.grants = this.stored.value.grants.filter(grant => grant.accountId !== accountId)
    this.stored.save()
  }

  roomsOf(accountId: string): Room[] {
    return this.stored.value.rooms.filter(room => room.accountId === accountId && !room.withdrawn)
  }

  room(id: string): Room | null {
    return this.stored.value.rooms.find(room => room.id === id) ?? null
  }

  roomByKey(key: string): { room: Room, role: 'host' | 'visitor' } | null {
    const room = this.stored.value.rooms.find(candidate => !candidate.withdrawn && (candidate.joinKey === key || candidate.hostKey === key))
    return room ? { room, role: room.hostKey === key ? 'host' : 'visitor' } : null
  }

  roomByNumber(number: string, passcode: string): Room | null {
    const plain = number.replace(/\D/g, '')
    return (
      this.stored.value.rooms.find(room => !room.withdrawn && room.number.replace(/\D/g, '') === plain && room.passcode === passcode)
      ?? null
    )
  }

  roomOfReference(accountId: string, reference: string): Room | null {
    return this.roomsOf(accountId).find(room => room.reference === reference) ?? null
  }

  addRoom(
    accountId: string, request: Pick<Room, 'reference' | 'title' | 'startsAt' | 'endsAt' | 'entry' | 'muted' | 'hosts' | 'attendees'>, madeAt: string,
  ): Room {
    const digits = String(randomInt(100_000_000, 999_999_999))
    const room: Room = {
      ...request,
      id: secret(9),
      accountId,
      number: digits.replace(/(\d{3})(?=\d)/g, '$1 '),
      passcode: String(randomInt(100_000, 999_999)),
      joinKey: secret(16),
      hostKey: secret(16),
      withdrawn: false,
      madeAt,
    }
    this.stored.value.rooms.push(room)
    this.stored.save()
    return room
  }

  changeRoom(room: Room, change: Partial<Room>): void {
    Object.assign(room, change)
    this.stored.save()
  }
}

const newAccount = { approval: 'free' as const, quota: QUOTA }

function secret(bytes: number): string {
  return randomBytes(bytes).toString('base64url')
}
