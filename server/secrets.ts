import { createCipheriv, createDecipheriv, createHash, createHmac, hkdfSync, randomBytes, timingSafeEqual } from 'node:crypto'

/** Tokens and sealing. All keys come from the one secret of the environment, a different one for each use. */

const keys = new Map<string, Buffer>()

/** Derived once for each use: there are a handful, and one secret. */
function keyFor(secret: string, use: string): Buffer {
  const name = `${use} ${secret}`
  let key = keys.get(name)
  if (!key) keys.set(name, key = Buffer.from(hkdfSync('sha256', secret, '', `temporia ${use}`, 32)))
  return key
}

export function makeSeed(): string {
  return randomBytes(16).toString('base64url')
}

/**
 * The token of a client's booking: which workspace it belongs to (16 bytes) and 192 bits that nobody can guess. It can
 * be derived anew for a later mail and is stored nowhere.
 */
export function bookingToken(secret: string, workspaceId: string, seed: string): string {
  return tokenFor(workspaceId, mac(secret, 'booking token', `${workspaceId} ${seed}`).subarray(0, 24))
}

/** What stands only in the link that is mailed to a booking's client. */
export function openedKey(secret: string, workspaceId: string, bookingId: string): string {
  return mac(secret, 'mailed link', `${workspaceId} ${bookingId}`).subarray(0, 16).toString('base64url')
}

/** The token that is mailed to an account's address; whoever has it can read that address's mail. */
export function confirmationToken(secret: string, account: { id: string, email: string }): string {
  return tokenFor(account.id, mac(secret, 'confirmation', `${account.id} ${account.email}`).subarray(0, 24))
}

/** The token of an invitation: the workspace (16 bytes) and 192 bits over the workspace, the invited member and the address. */
export function invitationToken(secret: string, member: { workspaceId: string, id: string, email: string }): string {
  return tokenFor(member.workspaceId, mac(secret, 'invitation', `${member.workspaceId} ${member.id} ${member.email}`).subarray(0, 24))
}

/** The token mailed to the old or the new address of an account that changes its address. */
export function addressChangeToken(
  secret: string, account: { id: string, email: string, newEmail: string | null, newEmailAt: Date | null }, which: 'old' | 'new',
): string {
  const about = `${account.id} ${account.email} ${account.newEmail} ${account.newEmailAt?.getTime()} ${which}`
  return tokenFor(account.id, mac(secret, 'address change', about).subarray(0, 24))
}

/**
 * The token that leads to a new password: account (16 bytes), the instant it ends (4 bytes), 192 bits over both and the present
 * password, so that it works once.
 */
export function passwordResetToken(
  secret: string,
  account: { id: string, passwordHash: string },
  expiresAt: number,
): string {
  const end = Buffer.alloc(4)
  end.writeUInt32BE(expiresAt)
  const unguessable = mac(secret, 'password reset', `${account.id} ${account.passwordHash} ${expiresAt}`)
  return tokenFor(account.id, Buffer.concat([end, unguessable.subarray(0, 24)]))
}

/** What a token for a new password says, which is yet to be compared; null for text that is none. */
export function readPasswordResetToken(token: string): { accountId: string, expiresAt: number } | null {
  if (!/^[A-Za-z0-9_-]{59}$/.test(token)) return null
  const bytes = Buffer.from(token, 'base64url')
  return { accountId: uuidOf(bytes), expiresAt: bytes.readUInt32BE(16) }
}

/** Compares tokens in a time that does not tell how much of them is right. */
export function tokensMatch(a: string, b: string): boolean {
  return a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b))
}

function mac(secret: string, use: string, text: string): Buffer {
  return createHmac('sha256', keyFor(secret, use)).update(text).digest()
}

/** The token of a host's feed, or of their free/busy times: the workspace (16 bytes) and 192 bits that nobody can guess. */
export function feedToken(secret: string, use: 'feed' | 'free/busy', host: { workspaceId: string, id: string, feedSeed: string }): string {
  return tokenFor(host.workspaceId, mac(secret, use, `${host.workspaceId} ${host.id} ${host.feedSeed}`).subarray(0, 24))
}

/** The token of a client's list of bookings: workspace (16 bytes), one of the bookings (16), when it ends (4), 160 bits over them. */
export function listToken(secret: string, { workspaceId, id }: { workspaceId: string, id: string }, expiresAt: number): string {
  const end = Buffer.alloc(4)
  end.writeUInt32BE(expiresAt)
  const about = Buffer.concat([Buffer.from(`${workspaceId}${id}`.replaceAll('-', ''), 'hex'), end])
  return Buffer.concat([about, mac(secret, 'list of bookings', about.toString('hex')).subarray(0, 20)]).toString('base64url')
}

/** The booking whose client's list a token opens, and until when (seconds); null for any other text. */
export function readListToken(secret: string, token: string): { workspaceId: string, id: string, expiresAt: number } | null {
  if (!/^[A-Za-z0-9_-]{75}$/.test(token)) return null
  const bytes = Buffer.from(token, 'base64url')
  const read = { workspaceId: uuidOf(bytes), id: uuidOf(bytes.subarray(16)), expiresAt: bytes.readUInt32BE(32) }
  return tokensMatch(listToken(secret, read, read.expiresAt), token) ? read : null
}

/** The token in a reminder that ends reminders: the workspace (16 bytes), the delivery (16 bytes) and 128 bits over both. */
export function reminderToken(secret: string, { workspaceId, id }: { workspaceId: string, id: string }): string {
  const ids = Buffer.from(`${workspaceId}${id}`.replaceAll('-', ''), 'hex')
  return Buffer.concat([ids, mac(secret, 'reminders', ids.toString('hex')).subarray(0, 16)]).toString('base64url')
}

/** The delivery whose token it is; null for any other text. */
export function deliveryOfReminderToken(secret: string, token: string): { workspaceId: string, id: string } | null {
  if (!/^[A-Za-z0-9_-]{64}$/.test(token)) return null
  const bytes = Buffer.from(token, 'base64url')
  const delivery = { workspaceId: uuidOf(bytes), id: uuidOf(bytes.subarray(16)) }
  return tokensMatch(reminderToken(secret, delivery), token) ? delivery : null
}

function tokenFor(id: string, unguessable: Buffer): string {
  return Buffer.concat([Buffer.from(id.replaceAll('-', ''), 'hex'), unguessable]).toString('base64url')
}

/** The id that a token names, of a workspace, an account or a member; null for text that is no token. */
export function idOfToken(token: string): string | null {
  if (!/^[A-Za-z0-9_-]{54}$/.test(token)) return null
  return uuidOf(Buffer.from(token, 'base64url'))
}

function uuidOf(bytes: Buffer): string {
  return bytes.subarray(0, 16).toString('hex').replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5')
}

export function hashToken(token: string): string {
  return createHash('sha256').update(token).digest('base64url')
}

export function seal(secret: string, text: string): string {
  const nonce = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', keyFor(secret, 'sealing'), nonce)
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64')
}

/** Throws where the text was sealed with another secret or changed since. */
export function unseal(secret: string, sealed: string): string {
  const bytes = Buffer.from(sealed, 'base64')
  const decipher = createDecipheriv('aes-256-gcm', keyFor(secret, 'sealing'), bytes.subarray(0, 12))
  decipher.setAuthTag(bytes.subarray(12, 28))
  return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8')
}
