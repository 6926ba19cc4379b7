import { and, count, eq } from 'drizzle-orm'
import { Logger, runOnce } from 'graphile-worker'
import { settingsSchema } from '../core/event-type/settings'
import { DAY, formatDate, formatInstant, instantToSeconds } from '../core/time/civil'
import { zoneOf } from '../core/time/zone'
import { bookOpening, loadMoving, moveBooking, openingsToMoveTo, saveNotes } from '../server/booking'
import { connect } from '../server/calendar-sync'
import { changeBooking } from '../server/changes'
import { type Context, dateOf } from '../server/context'
import { bookings as bookingRows, hostPlans, hosts, members, videoAccounts, workspaces } from '../server/database/schema'
import { createEventType, createGroup, createQuestionSet, findOpenings, loadEventTypes } from '../server/event-types'
import { insertPlan } from '../server/hosts-time'
import { taskListFor } from '../server/handlers'
import { createAccount, hashPassword, invite, loadMember, makePicture, savePicture } from '../server/people'
import { addOwnMessage, saveWording } from '../server/messages'
import { connectByCredentials, inviteUser, lookAtVideoAccount, returnPath, saveAccount } from '../server/rooms'
import { answersFor, clients } from './clients'
import { bookings, type DemoBooking } from './bookings'
import { calendarAccounts } from './calendars'
import { eventTypesAround, group, sharedQuestions } from './event-types'
import { invitee, PASSWORD, people, planOf, studioHours, workspace } from './people'
import { connectTollgate, payAsClient } from './payments'
import { callAhead, careAdvice, triageReminder } from './messages'
import { drawPortrait } from './portraits'
import { invitedThere, quaysideAccount } from './video'

/** Loads the demo workspace through the same use cases as the screens, laid around the present day. */

export async function isEmpty({ db }: Context): Promise<boolean> {
  const [found] = await db.select({ many: count() }).from(workspaces)
  return found?.many === 0
}

export async function loadDemo(context: Context): Promise<void> {
  const { workspaceId, hostIds } = await loadSetUp(context)
  await connectVideo(context, workspaceId, hostIds)
  await connectTollgate(context, workspaceId)
  await connectWorkspaceVideo(context, workspaceId, hostIds)
  await connectCalendars(context, workspaceId, hostIds)
  await inviteColleague(context, workspaceId)
  await loadBookings(context, workspaceId)
  await loadMessages(context, workspaceId)
  const accounts = await context.db.select({ workspaceId: videoAccounts.workspaceId, id: videoAccounts.id }).from(videoAccounts)
  for (const account of accounts) await lookAtVideoAccount(context, account)
}

/** The people, and what can be booked with them; nothing is booked yet. */
export async function loadSetUp(context: Context): Promise<{ workspaceId: string, hostIds: Map<string, string> }> {
  const { workspaceId, hostIds } = await loadPeople(context)
  await loadPictures(context, workspaceId, hostIds)
  const today = zoneOf(workspace.timeZone).dayOf(context.now())
  const studioPlan = await createStudioPlan(context, workspaceId, hostIds)
  const shared = await createQuestionSet(context, workspaceId, sharedQuestions)
  if (shared.kind !== 'created') throw new Error('The shared questions were not saved')
  const questionSets = [{ id: shared.id, ...sharedQuestions }]
  const triage = await createGroup(context, workspaceId, {
    name: group.name, hosts: group.hosts.map(({ key, weight }) => ({ id: idOf(hostIds, key), weight })),
  })
  if (triage.kind !== 'created') throw new Error('The group was not saved')
  for (const eventType of eventTypesAround(today)) {
    await context.db.transaction(tx =>
      createEventType(
        tx,
        workspaceId,
        {
          slug: eventType.slug,
          state: 'open',
          listed: eventType.listed,
          settings: settingsSchema.parse({
            ...eventType.settings,
            ...(eventType.asksShared ? { questionSets } : {}),
            ...(eventType.inStudio ? { hours: { mode: 'narrow', plan: studioHours.plan, shared: studioPlan } } : {}),
          }),
          chairs: eventType.chairs.map(({ group: drawn, ...chair }) => ({
            ...chair,
            hosts: chair.hosts.map(host => ({ id: idOf(hostIds, host.key), weight: host.weight })),
            groups: drawn ? [{ id: triage.id }] : [],
          })),
        },
        'Ottoline Marsh',
        dateOf(context.now() - 40 * DAY),
      ),
    )
  }
  return { workspaceId, hostIds }
}

/** One event type with words of its own, and messages that two of them add. */
async function loadMessages(context: Context, workspaceId: string): Promise<void> {
  const all = await loadEventTypes(context.db, workspaceId)
  const [triage, loss] = ['damage-triage', 'insurance-loss'].map(slug => all.find(eventType => eventType.slug === slug))
  if (!triage || !loss) throw new Error('The event type is missing')
  const by = { workspaceId, name: 'Ottoline Marsh' }
  const worded = await saveWording(context, by, { occasion: 'before', audience: 'client', by: 'mail', ownId: null }, {
    eventType: triage.id, wording: triageReminder, basedOn: 0,
  })
  if (worded.kind !== 'saved') throw new Error('The reminder was not saved')
  for (const [eventType, { message, wording }] of [[triage, careAdvice], [loss, callAhead]] as const) {
    const added = await addOwnMessage(context, by, eventType.id, message)
    const saved = added.kind === 'added' && await saveWording(context, by, { occasion: 'own', audience: 'client', by: message.by, ownId: added.id }, {
      eventType: eventType.id, wording, basedOn: 1,
    })
    if (!saved || saved.kind !== 'saved') throw new Error(`${message.name} was not saved`)
  }
}

/** Hours of the studio, which an event type takes as its own and two hosts can use. */
async function createStudioPlan({ db }: Context, workspaceId: string, hostIds: Map<string, string>): Promise<string> {
  const planId = await insertPlan(db, { workspaceId, hostId: null, ...studioHours })
  await db.insert(hostPlans).values(['ottoline', 'imani'].map(key => ({ workspaceId, hostId: idOf(hostIds, key), planId })))
  return planId
}

async function loadPeople({ db, now }: Context): Promise<{ workspaceId: string, hostIds: Map<string, string> }> {
  const passwordHash = await hashPassword(PASSWORD)
  return db.transaction(async (tx) => {
    const [made] = await tx.insert(workspaces).values({ ...workspace, confirmedAt: dateOf(now()) }).returning({ id: workspaces.id })
    if (!made) throw new Error('The workspace was not saved')
    const workspaceId = made.id
    const hostIds = new Map<string, string>()
    for (const person of people) {
      const { name, email, role, timeZone, hours, holidays } = person
      const account = await createAccount(tx, { email, passwordHash, confirmedAt: dateOf(now()) })
      const [member] = await tx
        .insert(members)
        .values({ workspaceId, accountId: account.id, name, email, role, timeZone, clock: '24' })
        .returning({ id: members.id })
      if (!hours) continue
      const today = zoneOf(timeZone).dayOf(now())
      const away = person.away
        ? [{ from: formatDate(today + person.away.from), to: formatDate(today + person.away.to), note: person.away.note }] : []
      const { about = '', slug = null, phone = null } = person
      const [host] = await tx
        .insert(hosts)
        .values({ workspaceId, memberId: member?.id ?? null, name, email, timeZone, about, slug, phone, away })
        .returning({ id: hosts.id })
      if (!host) throw new Error('The host was not saved')
      hostIds.set(person.key, host.id)
      await insertPlan(tx, { workspaceId, hostId: host.id, name: 'Usual hours', plan: planOf(hours, timeZone, holidays) }, true)
    }
    return { workspaceId, hostIds }
  })
}

async function loadPictures(context: Context, workspaceId: string, hostIds: Map<string, string>): Promise<void> {
  for (const { key, portrait } of people) {
    const made = portrait && await makePicture(await drawPortrait(portrait))
    if (made) await savePicture(context, workspaceId, idOf(hostIds, key), made)
  }
}

/** Somebody who has not answered yet. */
async function inviteColleague(context: Context, workspaceId: string): Promise<void> {
  const [owner] = await context.db.select({ id: members.id }).from(members)
    .where(and(eq(members.workspaceId, workspaceId), eq(members.role, 'owner')))
  const by = owner && await loadMember(context.db, workspaceId, owner.id)
  if (!by) throw new Error('The workspace has no owner')
  await invite(context, by, invitee)
}

/** Each host gives consent on the video service's own page, as they would by hand. */
async function connectVideo(context: Context, workspaceId: string, hostIds: ReadonlyMap<string, string>): Promise<void> {
  const key = 'lantern'
  const connection = context.video.get(key)?.connection
  if (connection?.way !== 'consent') return
  const redirectUri = context.settings.baseUrl + returnPath(key)
  for (const person of people.filter(candidate => candidate.video)) {
    const consent = await fetch(new URL('/consent', connection.consentUrl(redirectUri, 'demo')), {
      method: 'POST',
      redirect: 'manual',
      body: new URLSearchParams({ redirect_uri: redirectUri, state: 'demo', account: person.email, answer: 'allow' }),
    })
    const code = new URL(consent.headers.get('location') ?? '').searchParams.get('code') ?? ''
    await saveAccount(context, workspaceId, idOf(hostIds, person.key), key, await connection.exchangeCode(code, redirectUri))
  }
}

/** The owner types in the workspace's credentials at Quayside Video, and has a colleague invited there. */
async function connectWorkspaceVideo(context: Context, workspaceId: string, hostIds: ReadonlyMap<string, string>): Promise<void> {
  const key = 'quayside'
  const connection = context.video.get(key)?.connection
  if (connection?.way !== 'credentials') return
  const { number, client, secret } = quaysideAccount
  await connectByCredentials(context, workspaceId, key, connection, { account: number, client, secret })
  const [account] = await context.db.select({ id: videoAccounts.id }).from(videoAccounts)
    .where(and(eq(videoAccounts.workspaceId, workspaceId), eq(videoAccounts.service, key)))
  if (!account) throw new Error('The account was not connected')
  await lookAtVideoAccount(context, { workspaceId, id: account.id })
  await inviteUser(context, workspaceId, account.id, idOf(hostIds, invitedThere))
}

/** Each host connects their account of Copperplate Calendar. */
async function connectCalendars(context: Context, workspaceId: string, hostIds: ReadonlyMap<string, string>): Promise<void> {
  const server = context.settings.calendarServers.find(({ key }) => key === 'copperplate')
  if (!server) return
  for (const { user, password, name } of calendarAccounts) {
    const outcome = await connect(context, workspaceId, { kind: 'caldav', hostId: idOf(hostIds, user), address: server.address, user, password })
    if (outcome.kind !== 'connected') throw new Error(`The calendars of ${name} were not connected: ${JSON.stringify(outcome)}`)
  }
}

/** A clinic is held every other week only. */
const SEARCHED_DAYS = 14

/** Makes each booking at the time it was made, in that order, and lets its jobs run before the next. */
async function loadBookings(context: Context, workspaceId: string): Promise<void> {
  const present = context.now()
  const zone = zoneOf(workspace.timeZone)
  const today = zone.dayOf(present)
  const startOf = (wish: DemoBooking) => zone.toInstant((today + wish.day) * DAY + wish.minutes * 60)
  const laid = bookings
    .map((wish, index) => ({
      wish,
      index,
      start: startOf(wish),
      bookedAt: Math.min(startOf(wish) - wish.hoursBefore * 3600, present - 900 - 60 * bookings.indexOf(wish)),
    }))
    .sort((a, b) => a.bookedAt - b.bookedAt)
  const known = new Map((await loadEventTypes(context.db, workspaceId)).map(eventType => [eventType.slug, eventType]))

  for (const { wish, index, start, bookedAt } of laid) {
    const clock = { now: bookedAt }
    const then: Context = { ...context, now: () => clock.now }
    const eventType = known.get(wish.slug)
    const client = clients[index % clients.length]
    if (!eventType || !client) throw new Error(`There is no event type called ${wish.slug}`)
    const openings = await findOpenings(context, eventType, {
      now: bookedAt,
      from: start - DAY,
      to: start + SEARCHED_DAYS * DAY,
      ...(wish.durationMinutes ? { durationMinutes: wish.durationMinutes } : {}),
      ...(wish.people ? { people: wish.people } : {}),
    })
    const nearest = openings.map(opening => instantToSeconds(opening.start)).sort((a, b) => Math.abs(a - start) - Math.abs(b - start))[0]
    if (nearest === undefined) continue
    const outcome = await bookOpening(then, workspace.slug, wish.slug, `demo-${index}`, {
      start: formatInstant(nearest),
      timeZone: client.timeZone,
      ...(wish.durationMinutes ? { duration: wish.durationMinutes } : {}),
      ...(wish.people ? { people: wish.people } : {}),
      ...(eventType.settings.places.length > 1 ? { place: eventType.settings.places[0]?.key } : {}),
      client: {
        name: client.name,
        email: client.email,
        locale: client.locale,
        ...(wish.slug === 'insurance-loss' ? { phone: client.phone } : {}),
      },
      answers: answersFor(wish.slug, index),
      ...(wish.source ? { source: wish.source } : {}),
    })
    if (outcome.kind !== 'booked') throw new Error(`The demo's booking ${index} was not made: ${JSON.stringify(outcome)}`)
    const { id, state } = outcome.body.booking
    clock.now += 5
    if (state === 'held') await payAsClient(then, workspaceId, id)
    await runJobs(then)
    if (wish.notes) {
      const [booked] = await then.db.select({ sessionId: bookingRows.sessionId }).from(bookingRows).where(eq(bookingRows.id, id))
      await saveNotes(then, workspaceId, booked?.sessionId ?? '', wish.notes, 0)
    }
    if (wish.then === 'approve') {
      clock.now += 3600
      await changeBooking(then, workspaceId, id, 'approved', { kind: 'member', name: 'Ottoline Marsh' })
    }
    if (wish.then === 'cancel') {
      clock.now += 7200
      await changeBooking(
        then,
        workspaceId,
        id,
        'cancelled',
        { kind: 'client', name: client.name },
        'We found the missing leaf; it can wait.',
      )
    }
    if (wish.then === 'move') {
      clock.now += 5400
      const moving = await loadMoving(context.db, workspaceId, id, false)
      const [next] = moving ? await openingsToMoveTo(then, moving, nearest + DAY, nearest + SEARCHED_DAYS * DAY) : []
      if (!next) throw new Error(`The demo's booking ${index} has nowhere to move to`)
      const request = { bookingId: id, start: instantToSeconds(next.start), whole: false, despite: false }
      await moveBooking(then, workspaceId, request, { by: { kind: 'client', name: client.name }, zone: client.timeZone, locale: client.locale })
    }
    if (wish.then) await runJobs(then)
  }
}

async function runJobs(context: Context): Promise<void> {
  // Accounts are looked at by the present clock: by that of a past day, the next look would always be due.
  const { lookAtVideoAccount: _later, ...taskList } = taskListFor(context)
  await runOnce({ pgPool: context.pool, taskList, noHandleSignals: true, logger: new Logger(() => () => {}) })
}

function idOf(ids: ReadonlyMap<string, string>, key: string): string {
  const id = ids.get(key)
  if (!id) throw new Error(`Nobody called ${key} hosts anything`)
  return id
}
