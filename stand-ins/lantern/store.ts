import { randomBytes, randomInt } from 'node:crypto'
import { type Fault, noFault } from '../shared/faults'
import { Kept } from '../shared/keep'

/** What Lantern Rooms remembers: people's accounts, consents given, and rooms. */

export interface Account {
  id: string
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
export const QUOTA = 500

export class LanternStore {
  private readonly kept: Kept<Memory>
  fault: Fault = noFault
  /** Calls of the interface since the start, newest last, for the page that shows them. */
  readonly calls: { at: string, call: string, status: number }[] = []

  constructor(folder: string, accounts: Account[]) {
    this.kept = new Kept<Memory>(`${folder}/lantern.json`, { accounts, codes: {}, grants: [], rooms: [] })
  }

  get accounts(): readonly Account[] {
    return this.kept.value.accounts
  }

  addAccount(name: string, email: string): Account {
    const account = { id: secret(8), name, email }
    this.kept.value.accounts.push(account)
    this.kept.save()
    return account
  }

  giveCode(accountId: string, redirectUri: string, now: number): string {
    const code = secret(24)
    this.kept.value.codes[code] = { accountId, redirectUri, expiresAt: now + 300 }
    this.kept.save()
    return code
  }

  /** Trades a code, once, for tokens. */
  takeCode(code: string, redirectUri: string, now: number): Grant | null {
    const found = this.kept.value.codes[code]
    if (!found || found.redirectUri !== redirectUri || found.expiresAt < now) return null
    const { [code]: _used, ...others } = this.kept.value.codes
    this.kept.value.codes = others
    return this.grant(found.accountId, now)
  }

  renew(refreshToken: string, now: number): Grant | null {
    const old = this.kept.value.grants.find(one => one.refreshToken === refreshToken)
    return old ? this.grant(old.accountId, now) : null
  }

  private grant(accountId: string, now: number): Grant {
    const made = { accountId, accessToken: secret(24), refreshToken: secret(24), expiresAt: now + TOKEN_SECONDS }
    this.kept.value.grants.push(made)
    this.kept.save()
    return made
  }

  accountOfToken(token: string, now: number): Account | null {
    const grant = this.kept.value.grants.find(one => one.accessToken === token && one.expiresAt > now)
    return this.accounts.find(account => account.id === grant?.accountId) ?? null
  }

  withdrawConsent(accountId: string): void {
    this.kept.value.grants = this.kept.value.grants.filter(one => one.accountId !== accountId)
    this.kept.save()
  }

  roomsOf(accountId: string): Room[] {
    return this.kept.value.rooms.filter(room => room.accountId === accountId && !room.withdrawn)
  }

  room(id: string): Room | null {
    return this.kept.value.rooms.find(room => room.id === id) ?? null
  }

  roomByKey(key: string): { room: Room, role: 'host' | 'visitor' } | null {
    const room = this.kept.value.rooms.find(one => !one.withdrawn && (one.joinKey === key || one.hostKey === key))
    return room ? { room, role: room.hostKey === key ? 'host' : 'visitor' } : null
  }

  roomByNumber(number: string, passcode: string): Room | null {
    const plain = number.replace(/\D/g, '')
    return this.kept.value.rooms.find(room => !room.withdrawn && room.number.replace(/\D/g, '') === plain && room.passcode === passcode) ?? null
  }

  /** The same reference under the same account leads to the same room. */
  makeRoom(accountId: string, wanted: Pick<Room, 'reference' | 'title' | 'startsAt' | 'endsAt' | 'entry'>, madeAt: string): { room: Room, isNew: boolean } {
    const existing = this.roomsOf(accountId).find(room => room.reference === wanted.reference)
    if (existing) return { room: existing, isNew: false }
    const digits = String(randomInt(100_000_000, 999_999_999))
    const room: Room = {
      ...wanted,
      id: secret(9),
      accountId,
      number: digits.replace(/(\d{3})(?=\d)/g, '$1 '),
      passcode: String(randomInt(100_000, 999_999)),
      joinKey: secret(16),
      hostKey: secret(16),
      withdrawn: false,
      madeAt,
    }
    this.kept.value.rooms.push(room)
    this.kept.save()
    return { room, isNew: true }
  }

  changeRoom(room: Room, change: Partial<Pick<Room, 'title' | 'startsAt' | 'endsAt' | 'entry' | 'withdrawn'>>): void {
    Object.assign(room, change)
    this.kept.save()
  }
}

function secret(bytes: number): string {
  return randomBytes(bytes).toString('base64url')
}
