import { randomBytes, randomInt } from 'node:crypto'
import { newCallLog } from '../shared/calls'
import { StoredValue } from '../shared/stored-value'

/** What Quayside Video remembers: organisations with their users, and meetings made for these. */

export interface User {
  id: string
  name: string
  address: string
  state: 'active' | 'invited'
  /** Of whoever is invited: the end of the link in the mail, in seconds since the epoch, and what the link ends with. */
  invitedUntil: number
  invitationKey: string
}

export interface Account {
  number: string
  client: string
  secret: string
  name: string
  /** The first one is the main user. */
  users: User[]
  quota: number
}

export interface Meeting {
  key: string
  account: string
  reference: string
  topic: string
  /** Seconds since the epoch. */
  begin: number
  minutes: number
  /** A user's id. */
  organizer: string
  lobby: boolean
  muted: boolean
  cameras: { host: boolean, guests: boolean }
  /** How long before the beginning guests may come in. */
  earlyMinutes: number
  participants: { name: string, address: string, part: 'host' | 'guest' }[]
  dial: string
  /** Null where none was asked for. */
  code: string | null
  guestKey: string
  hostKey: string
  deleted: boolean
}

export interface NewAccount {
  number: string
  client: string
  secret: string
  name: string
  users: { name: string, address: string }[]
}

const INVITATION_SECONDS = 30 * 86_400
const QUOTA = 500

export class QuaysideStore {
  private readonly stored: StoredValue<{ accounts: Account[], meetings: Meeting[] }>
  readonly log = newCallLog()

  constructor(folder: string, accounts: readonly NewAccount[]) {
    this.stored = new StoredValue(`${folder}/quayside.json`, { accounts: accounts.map(fullAccount), meetings: [] as Meeting[] })
  }

  get accounts(): readonly Account[] {
    return this.stored.value.accounts
  }

  addAccount(account: NewAccount): void {
    this.stored.value.accounts = [...this.accounts.filter(({ number }) => number !== account.number), fullAccount(account)]
    this.stored.save()
  }

  account(number: string): Account | null {
    return this.accounts.find(account => account.number === number) ?? null
  }

  changeAccount(account: Account, change: Partial<Account>): void {
    Object.assign(account, change)
    this.stored.save()
  }

  /** A new invitation, or the one there is made new. */
  invite(account: Account, { name, address }: { name: string, address: string }, now: number): User {
    const found = account.users.find(user => user.address.toLowerCase() === address.toLowerCase())
    const user = found ?? newUser({ name, address }, 'invited')
    if (user.state === 'invited') Object.assign(user, { invitedUntil: now + INVITATION_SECONDS, invitationKey: secret(16) })
    if (!found) account.users.push(user)
    this.stored.save()
    return user
  }

  /** The user whom an invitation makes active; null where it is over or was withdrawn. */
  accept(key: string, now: number): User | null {
    const user = this.invited(key)
    if (!user || user.state !== 'invited' || user.invitedUntil < now) return null
    user.state = 'active'
    this.stored.save()
    return user
  }

  invited(key: string): User | null {
    return this.accounts.flatMap(({ users }) => users).find(user => user.invitationKey === key) ?? null
  }

  changeUser(user: User, change: Partial<User>): void {
    Object.assign(user, change)
    this.stored.save()
  }

  removeUser(account: Account, user: User): void {
    account.users = account.users.filter(other => other !== user)
    this.stored.save()
  }

  meetingsOf(number: string): Meeting[] {
    return this.stored.value.meetings.filter(meeting => meeting.account === number && !meeting.deleted)
  }

  addMeeting(meeting: Omit<Meeting, 'key' | 'dial' | 'code' | 'guestKey' | 'hostKey' | 'deleted'>, hasCode: boolean): Meeting {
    const made: Meeting = {
      ...meeting,
      key: secret(8),
      dial: `${randomInt(20, 99)}-${randomInt(1000, 9999)}-${randomInt(1000, 9999)}`,
      code: hasCode ? newCode() : null,
      guestKey: secret(16),
      hostKey: secret(16),
      deleted: false,
    }
    this.stored.value.meetings.push(made)
    this.stored.save()
    return made
  }

  changeMeeting(meeting: Meeting, change: Partial<Meeting>): void {
    Object.assign(meeting, change)
    this.stored.save()
  }

  meetingByKey(key: string): { meeting: Meeting, role: 'host' | 'visitor' } | null {
    const meeting = this.stored.value.meetings.find(({ deleted, guestKey, hostKey }) => !deleted && (guestKey === key || hostKey === key))
    return meeting ? { meeting, role: meeting.hostKey === key ? 'host' : 'visitor' } : null
  }
}

export function newCode(): string {
  return String(randomInt(1000, 9999))
}

function fullAccount({ users, ...account }: NewAccount): Account {
  return { ...account, users: users.map(user => newUser(user, 'active')), quota: QUOTA }
}

function newUser(user: { name: string, address: string }, state: User['state']): User {
  return { id: `u${randomInt(100_000, 999_999)}`, ...user, state, invitedUntil: 0, invitationKey: '' }
}

function secret(bytes: number): string {
  return randomBytes(bytes).toString('hex')
}
