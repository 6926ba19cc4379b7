import { createHash, randomBytes } from 'node:crypto'
import { type Fault, noFault } from '../shared/faults'
import { StoredValue } from '../shared/stored-value'
import { uidOf } from './objects'

/** What Copperplate Calendar remembers: accounts, their calendars with all changes in order, and consents given. */

export interface StoredObject {
  /** The last part of its address. */
  name: string
  etag: string
  uid: string
  text: string
}

export interface StoredCalendar {
  slug: string
  name: string
  colour: string
  readOnly: boolean
  objects: Record<string, StoredObject>
  /** The names of changed and deleted objects, oldest first; a sync token is a place in it. */
  log: string[]
}

export interface StoredAccount {
  user: string
  password: string
  name: string
  email: string
  timeZone: string
  calendars: StoredCalendar[]
}

interface Grant {
  user: string
  accessToken: string
  refreshToken: string
  /** Seconds since the epoch. */
  expiresAt: number
}

interface Code {
  user: string
  redirectUri: string
  challenge: string
  expiresAt: number
}

interface Memory {
  accounts: StoredAccount[]
  codes: Record<string, Code>
  grants: Grant[]
}

/** How other servers behave that are right too, or wrong in ways that happen. */
export const switches = {
  withoutSync: 'Without sync-collection (RFC 6578)',
  ctagOnly: 'Without sync-collection: changes only by CTag and ETags',
  smallPages: 'Answers sync-collection in pages of 20, ended by 507',
  refuseTokens: 'Refuses every sync token but an empty one',
  wrongEtags: 'Gives another ETag each time it is asked',
  refuseAccess: 'Refuses access tokens and passwords (401)',
} as const
export type Switch = keyof typeof switches

export const PAGE = 20
const TOKEN_SECONDS = 3600
const CODE_SECONDS = 300

export class CopperplateStore {
  private readonly stored: StoredValue<Memory>
  fault: Fault = noFault
  readonly on = new Set<Switch>()
  /** Calls of the interface since the start, newest last. */
  readonly calls: { at: string, call: string, status: number }[] = []

  constructor(folder: string, accounts: () => StoredAccount[]) {
    this.stored = new StoredValue<Memory>(`${folder}/copperplate.json`, { accounts: [], codes: {}, grants: [] })
    if (this.accounts.length === 0) {
      this.stored.value.accounts = accounts()
      this.stored.save()
    }
  }

  get accounts(): StoredAccount[] {
    return this.stored.value.accounts
  }

  account(user: string): StoredAccount | null {
    return this.accounts.find(account => account.user === user) ?? null
  }

  addAccount(account: Pick<StoredAccount, 'user' | 'password' | 'name' | 'email' | 'timeZone'>, calendars: string[]): void {
    this.stored.value.accounts = this.accounts.filter(({ user }) => user !== account.user)
    this.accounts.push({ ...account, calendars: calendars.map(name => makeCalendar(name, '#54305C')) })
    this.stored.save()
  }

  addCalendar(account: StoredAccount, name: string): void {
    account.calendars.push(makeCalendar(name, '#2f5d62'))
    this.stored.save()
  }

  deleteCalendar(account: StoredAccount, slug: string): void {
    account.calendars = account.calendars.filter(calendar => calendar.slug !== slug)
    this.stored.save()
  }

  /** An etag stands for the text, whoever wrote it. */
  put(calendar: StoredCalendar, name: string, text: string): StoredObject {
    const object = { name, text, uid: uidOf(text), etag: `"${createHash('sha256').update(text).digest('hex').slice(0, 20)}"` }
    calendar.objects[name] = object
    calendar.log.push(name)
    this.stored.save()
    return object
  }

  delete(calendar: StoredCalendar, name: string): boolean {
    const { [name]: found, ...others } = calendar.objects
    if (!found) return false
    calendar.objects = others
    calendar.log.push(name)
    this.stored.save()
    return true
  }

  giveCode(user: string, redirectUri: string, challenge: string, now: number): string {
    const code = secret()
    this.stored.value.codes[code] = { user, redirectUri, challenge, expiresAt: now + CODE_SECONDS }
    this.stored.save()
    return code
  }

  /** Trades a code, once, for tokens: only whoever has the verifier of its challenge can (RFC 7636). */
  takeCode(code: string, redirectUri: string, verifier: string, now: number): Grant | null {
    const { [code]: found, ...others } = this.stored.value.codes
    this.stored.value.codes = others
    const challenge = createHash('sha256').update(verifier).digest('base64url')
    if (!found || found.redirectUri !== redirectUri || found.expiresAt < now || found.challenge !== challenge) return null
    return this.grant(found.user, now)
  }

  /** A refresh token works once. */
  renew(refreshToken: string, now: number): Grant | null {
    const old = this.stored.value.grants.find(grant => grant.refreshToken === refreshToken)
    if (!old) return null
    this.stored.value.grants = this.stored.value.grants.filter(grant => grant !== old)
    return this.grant(old.user, now)
  }

  userOfToken(token: string, now: number): string | null {
    return this.stored.value.grants.find(grant => grant.accessToken === token && grant.expiresAt > now)?.user ?? null
  }

  withdrawConsent(user: string): void {
    this.stored.value.grants = this.stored.value.grants.filter(grant => grant.user !== user)
    this.stored.save()
  }

  private grant(user: string, now: number): Grant {
    const made = { user, accessToken: secret(), refreshToken: secret(), expiresAt: now + TOKEN_SECONDS }
    this.stored.value.grants.push(made)
    this.stored.save()
    return made
  }
}

export const tokenSeconds = TOKEN_SECONDS

export function makeCalendar(name: string, colour: string, readOnly = false): StoredCalendar {
  return { slug: name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-'), name, colour, readOnly, objects: {}, log: [] }
}

function secret(): string {
  return randomBytes(24).toString('base64url')
}
