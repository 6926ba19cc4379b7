import { and, eq, gt, sql } from 'drizzle-orm'
import type { BookingState } from '../../core/booking/states'
import { quietUntil } from '../../core/messages/quiet-hours'
import { isUnaskedFor, type OwnMessage, statesOfOwn } from '../../core/messages/own'
import { isOccasion, messageDeadline, type Occasion, occasionTable } from '../../core/messages/occasions'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { lockSession } from '../database/lock'
import { preparedQuery } from '../database/prepared-query'
import { changes, deliveries } from '../database/schema'
import { type BookingDetails, loadBookingDetails, loadSession } from '../details'
import { type JobSubject, planJob } from '../jobs/queue'
import { recordTrail } from '../trail'
import { composeAccountMail } from './account-mail'
import { type Cause, composeMessage, type Content, linkState, loadTeamReader } from './compose'
import { loadOwnMessage } from './own'
import { wantsReminders } from './reminders-wanted'
import { recordTitleFault } from './title-fault'
import { countUnopened } from './unopened'

/** Deciding what becomes of a delivery before anything is sent: everything that can fail here fails before the claim. */

export type Delivery = typeof deliveries.$inferSelect

/** A delivery marked as being sent, and what to send. `sessionId` is null for mails about a member's own account. */
export interface ClaimedDelivery {
  delivery: Delivery
  sessionId: string | null
  content: Content
  /** What the team calls it, where it is one of the workspace's own. */
  ownName: string | null
  /** Until when sending makes sense, in seconds. */
  deadline: number
}

/** Seconds after which the link in a mail about a member's own account is of no use. */
const ACCOUNT_MAIL_LASTS = 24 * 3600

/** How often a mail whose outcome nobody knows is sent in all, unless a person sends it again. */
const MOST_UNKNOWN = 2

/** What a delivery is about, which never changes. */
export interface DeliverySubject {
  bookingId: string | null
  sessionId: string | null
}

/** Marks the delivery as being sent and composes its mail; null where nothing is to be sent now. */
export async function claimDelivery(
  context: Context,
  db: Database,
  subject: JobSubject,
  { bookingId, sessionId }: DeliverySubject,
): Promise<ClaimedDelivery | null> {
  return db.transaction(tx =>
    bookingId && sessionId ? claimBookingMail(context, tx, subject, bookingId, sessionId) : claimAccountMail(context, tx, subject),
  )
}

async function claimBookingMail(
  context: Context,
  tx: Database,
  subject: JobSubject,
  bookingId: string,
  sessionId: string,
): Promise<ClaimedDelivery | null> {
  const { workspaceId } = subject
  // A room that becomes ready meanwhile sees either a planned or a claimed delivery.
  const found = await lockDelivery(tx, subject, sessionId)
  const delivery = found && await takeUp(context, tx, found.delivery, sessionId)
  const details = delivery && (await loadDetails(tx, delivery, bookingId))
  const occasion = delivery && isOccasion(delivery.occasion) ? delivery.occasion : null
  if (!delivery || !details || !occasion) return null
  const about = { workspaceId, sessionId, bookingId }
  const own = delivery.ownId === null ? null : (await loadOwnMessage(tx, workspaceId, delivery.ownId))?.definition ?? null
  const called = trailName(delivery, own?.name ?? null)
  const isUnasked = occasion === 'before' || (own !== null && isUnaskedFor(own))
  const isOvertaken = !statesOf(occasion, own).includes(details.booking.state) || !isStillFor(delivery, occasion, details)
    || (isUnasked && (isOfOtherStart(delivery, details) || !await wantsReminders(tx, delivery)))
    || (isRepeatable(occasion) && await isToldSince(tx, delivery))
  if (isOvertaken && occasionTable[occasion].isSilent) {
    await tx.delete(deliveries).where(isDelivery(delivery))
    return null
  }
  if (isOvertaken) {
    await updateDelivery(tx, delivery, { state: 'overtaken', nextTryAt: null })
    await recordTrail(tx, about, context.now(), 'messageOvertaken', { ...called, occasion, address: delivery.address })
    return null
  }
  const isBefore = own?.moment.kind === 'before' || own?.moment.kind === 'dayBefore'
  const deadline = deadlineOf(isBefore ? 'before' : occasion, details.session, delivery)
  if (context.now() >= deadline) {
    const fault = delivery.fault ?? { code: 'tooLate' as const }
    await updateDelivery(tx, delivery, { state: 'failed', fault, nextTryAt: null })
    await recordTrail(tx, about, context.now(), 'messageFailed', { ...called, occasion, address: delivery.address, fault, nextAt: null })
    return null
  }
  const reader = await loadTeamReader(tx, details, delivery)
  const quiet = delivery.channel === 'mail' ? null : quietUntil(context.now(), details.workspace.quietHours, reader?.timeZone ?? details.booking.timeZone)
  if (quiet !== null) {
    // What tells of a session to come is of no use once it has begun.
    const isOfStart = own?.moment.kind === 'on' && own.moment.occasion !== 'missed'
    const isTooLate = quiet >= (isOfStart ? secondsOf(details.session.startsAt) : deadline)
    await updateDelivery(tx, delivery, isTooLate ? { state: 'overtaken', fault: { code: 'quietHours' }, nextTryAt: null } : { nextTryAt: dateOf(quiet) })
    if (isTooLate || delivery.nextTryAt === null)
      await recordTrail(tx, about, context.now(), 'messageQuiet', { ...called, occasion, address: delivery.address, until: isTooLate ? null : quiet })
    if (!isTooLate) await planJob(tx, 'deliver', subject, quiet)
    return null
  }
  // Each attempt at the same mail counts once, and an address that has opened this booking's mail is not a stranger's.
  if (delivery.attempts === 0 && delivery.audience !== 'host' && delivery.audience !== 'observer' && details.booking.openedAt === null) {
    const until = await countUnopened(tx, context, delivery.address)
    if (until !== null) {
      await updateDelivery(tx, delivery, { nextTryAt: dateOf(until) })
      if (delivery.nextTryAt === null)
        await recordTrail(tx, about, context.now(), 'messageHeld', { ...called, occasion, address: delivery.address, until })
      await planJob(tx, 'deliver', subject, until)
      return null
    }
  }
  const cause = found?.cause ?? null
  const { content, titleFault, wordingFault } = await composeMessage(context, tx, details, delivery, { occasion, isUnasked, cause, reader })
  if (titleFault) await recordTitleFault(tx, context, about, { title: details.eventType.settings.calendarTitle, fault: titleFault })
  if (wordingFault) await recordTrail(tx, about, context.now(), 'wordingFailed', { occasion, part: wordingFault.part, line: wordingFault.line, fault: wordingFault.fault })
  const sending = await startSending(tx, delivery, linkState(details, occasion))
  return { delivery: sending, sessionId, content, ownName: own?.name ?? null, deadline }
}

/** What tells a message apart in the trail, beside its occasion: its channel, and the name of one of the workspace's own. */
export function trailName({ channel }: Pick<Delivery, 'channel'>, name: string | null): { channel?: 'phone', name?: string } {
  return { ...channel === 'phone' && { channel }, ...name !== null && { name } }
}

/** The booking that a delivery is about, with the session that it tells of. */
async function loadDetails(tx: Database, { workspaceId, sessionId }: Delivery, bookingId: string): Promise<BookingDetails | null> {
  const details = await loadBookingDetails(tx, workspaceId, bookingId)
  const told = sessionId === null ? null : await loadSession(tx, workspaceId, sessionId)
  return details && { ...details, ...told }
}

/** The states in which a message is still true; none for one of the workspace's own that was removed. */
function statesOf(occasion: Occasion, own: OwnMessage | null): readonly BookingState[] {
  return occasion === 'own' ? (own ? statesOfOwn(own) : []) : occasionTable[occasion].states
}

/** Whether it reminds of a start that is no longer the session's. */
function isOfOtherStart({ remindsOf }: Delivery, { session }: BookingDetails): boolean {
  return remindsOf !== null && secondsOf(remindsOf) !== secondsOf(session.startsAt)
}

const isRepeatable = (occasion: Occasion) => occasion === 'moved' || occasion === 'before'

/** Whether a later mail tells the same reader of a later move, or reminds them later: two at once would come in any order. */
async function isToldSince(tx: Database, { workspaceId, bookingId, address, occasion, createdAt }: Delivery): Promise<boolean> {
  return await tx.$count(deliveries, and(
    eq(deliveries.workspaceId, workspaceId), bookingId === null ? undefined : eq(deliveries.bookingId, bookingId),
    eq(deliveries.address, address), eq(deliveries.occasion, occasion), gt(deliveries.createdAt, createdAt),
  )) > 0
}

/**
 * Whether a message to a host or a guest is still theirs: a session that went to somebody else since is no longer, and may have
 * come back; and so with who comes along.
 */
function isStillFor({ audience, hostId, address }: Delivery, occasion: Occasion, { hosts, guests }: BookingDetails): boolean {
  if (audience !== 'host' && audience !== 'guest') return true
  const takesPart = audience === 'host' ? hosts.some(host => host.id === hostId) : guests.some(guest => guest.email === address)
  return takesPart !== (occasionTable[occasion].isFarewell === true)
}

/** Locks the session, where there is one, and then the delivery, and reads it with the change that it tells of. */
async function lockDelivery(
  tx: Database, subject: JobSubject, sessionId: string | null,
): Promise<{ delivery: Delivery, cause: Cause } | null> {
  if (sessionId) await lockSession(tx, subject.workspaceId, sessionId)
  const [found] = await deliveryLock(tx).execute(subject)
  return found ?? null
}

const deliveryLock = preparedQuery(db => db.select({ delivery: deliveries, cause: changes }).from(deliveries)
  .leftJoin(changes, and(eq(changes.workspaceId, deliveries.workspaceId), eq(changes.id, deliveries.changeId)))
  .where(and(eq(deliveries.workspaceId, sql.placeholder('workspaceId')), eq(deliveries.id, sql.placeholder('id'))))
  .for('update', { of: deliveries }).prepare(''))

async function claimAccountMail(context: Context, tx: Database, subject: JobSubject): Promise<ClaimedDelivery | null> {
  const found = await lockDelivery(tx, subject, null)
  const delivery = found && await takeUp(context, tx, found.delivery, null)
  const mail = delivery && await composeAccountMail(context, tx, delivery)
  if (!delivery || !mail) {
    if (delivery) await updateDelivery(tx, delivery, { state: 'overtaken', nextTryAt: null })
    return null
  }
  const until = delivery.attempts === 0 ? await countUnopened(tx, context, delivery.address) : null
  if (until !== null) {
    await updateDelivery(tx, delivery, { nextTryAt: dateOf(until) })
    await planJob(tx, 'deliver', subject, until)
    return null
  }
  return {
    delivery: await startSending(tx, delivery, null),
    sessionId: null,
    content: { channel: 'mail', mail },
    ownName: null,
    deadline: secondsOf(delivery.createdAt) + ACCOUNT_MAIL_LASTS,
  }
}

/**
 * The delivery, where it is to be sent. One found as being sent under our own lock was left by a process that died:
 * nobody knows whether it arrived, so it is sent once more under the same Message-ID, and after that left to a person.
 */
async function takeUp(context: Context, tx: Database, delivery: Delivery, sessionId: string | null): Promise<Delivery | null> {
  if (delivery.state === 'planned') return delivery
  if (delivery.state !== 'sending') return null
  const { unknowns, again } = afterUnknown(delivery)
  await updateDelivery(tx, delivery, { unknowns, fault: STOPPED, ...(again ? {} : { state: 'unknown' }) })
  if (sessionId && delivery.bookingId) {
    await recordTrail(tx, { workspaceId: delivery.workspaceId, sessionId, bookingId: delivery.bookingId }, context.now(), 'messageUnknown', {
      ...trailName(delivery, null),
      occasion: delivery.occasion,
      address: delivery.address,
      fault: STOPPED,
      again,
    })
  }
  return again ? { ...delivery, unknowns, fault: STOPPED } : null
}

const STOPPED = { code: 'stoppedWhileSending' } as const

async function startSending(tx: Database, delivery: Delivery, withLink: boolean | null): Promise<Delivery> {
  const change = { state: 'sending' as const, withLink, attempts: delivery.attempts + 1, nextTryAt: null }
  await updateDelivery(tx, delivery, change)
  return { ...delivery, ...change }
}

/** How a mail that broke off goes on: once more, or not by itself. */
export function afterUnknown(delivery: Delivery): { unknowns: number, again: boolean } {
  const unknowns = delivery.unknowns + 1
  return { unknowns, again: unknowns < MOST_UNKNOWN }
}

function deadlineOf(occasion: Occasion, session: { startsAt: Date, endsAt: Date }, delivery: Delivery): number {
  return messageDeadline(occasion, { start: secondsOf(session.startsAt), end: secondsOf(session.endsAt) }, secondsOf(delivery.createdAt))
}

export async function updateDelivery(
  db: Database,
  delivery: { workspaceId: string, id: string },
  change: Partial<Delivery>,
): Promise<void> {
  await db.update(deliveries).set(change).where(isDelivery(delivery))
}

export function isDelivery(subject: { workspaceId: string, id: string }) {
  return and(eq(deliveries.workspaceId, subject.workspaceId), eq(deliveries.id, subject.id))
}
