import { createRouter, getHeader, getRouterParam, type H3Event, readBody, type Router, setResponseStatus } from 'h3'
import { z } from 'zod'
import { defineCall, type Handler, parse, Refusal } from '../shared/calls'
import { type Account, type Meeting, newCode, type QuaysideStore, type User } from './store'

/** The HTTP interface of Quayside Video, as docs/stand-ins.md describes it. */

const meetingRequest = z.object({
  topic: z.string().max(500),
  begin: z.int().positive(),
  minutes: z.int().min(1).max(1440),
  /** A user's id; the main user where it is null. */
  organizer: z.string().nullable(),
  lobby: z.boolean(),
  code: z.boolean(),
  muted: z.boolean(),
  cameras: z.object({ host: z.boolean(), guests: z.boolean() }),
  early_minutes: z.int().min(0).max(60),
  participants: z.array(z.object({ name: z.string().max(200), address: z.string().max(300), part: z.enum(['host', 'guest']) })).max(1000),
})

const userRequest = z.object({ name: z.string().min(1).max(200), address: z.email() })

/** Calls at once, of all clients together. */
const AT_ONCE = 10

export type SendInvitation = (account: Account, user: User) => Promise<void>

export function quaysideInterface(store: QuaysideStore, sendInvitation: SendInvitation, origin: () => string): Router {
  const router = createRouter()

  router.get('/v2/account', call(async (event) => {
    const account = requireAccount(event)
    return {
      number: account.number,
      name: account.name,
      main_user: account.users[0] ? showUser(account.users[0]) : null,
      plan: { meetings: account.quota, meetings_used: store.meetingsOf(account.number).length, minutes: 300, people: 40 },
    }
  }))

  router.get('/v2/users', call(async event => ({ users: requireAccount(event).users.map(showUser) })))

  router.post('/v2/users', call(async (event) => {
    const account = requireAccount(event)
    const user = store.invite(account, parse(userRequest, await readBody(event)), seconds())
    if (user.state === 'invited') await sendInvitation(account, user)
    setResponseStatus(event, 201)
    return showUser(user)
  }))

  router.delete('/v2/users/:id', call(async (event) => {
    const account = requireAccount(event)
    const user = account.users.find(({ id }) => id === getRouterParam(event, 'id'))
    if (!user) throw new Refusal(404, 'no_user', 'there is no such user')
    if (user.state !== 'invited') throw new Refusal(409, 'active', 'only an invitation can be withdrawn')
    store.removeUser(account, user)
    return { removed: true }
  }))

  router.get('/v2/meetings', call(async event => ({ meetings: store.meetingsOf(requireAccount(event).number).map(show) })))

  router.get('/v2/meetings/:key', call(async (event) => {
    const meeting = store.meetingsOf(requireAccount(event).number).find(({ key }) => key === getRouterParam(event, 'key'))
    if (!meeting) throw new Refusal(404, 'no_meeting', 'there is no such meeting')
    return show(meeting)
  }))

  router.put('/v2/meetings/:key', call(async (event, fault) => {
    const account = requireAccount(event)
    // The place in the path is the reference here, and the key elsewhere.
    const reference = getRouterParam(event, 'key') ?? ''
    const { code, early_minutes: earlyMinutes, organizer, ...rest } = parse(meetingRequest, await readBody(event))
    const user = organizer === null ? account.users[0] : account.users.find(({ id }) => id === organizer)
    if (!user || user.state !== 'active') throw new Refusal(422, 'no_user', 'the organizer is no active user of this account')
    const values = { ...rest, earlyMinutes, organizer: user.id }
    const existing = store.meetingsOf(account.number).find(meeting => meeting.reference === reference)
    if (existing && fault.kind !== 'doubling') {
      store.changeMeeting(existing, { ...values, code: code ? existing.code ?? newCode() : null })
      return show(existing)
    }
    if (fault.kind === 'quota' || store.meetingsOf(account.number).length >= account.quota)
      throw new Refusal(403, 'quota', `this account may have ${account.quota} meetings`)
    const make = () => store.addMeeting({ ...values, account: account.number, reference }, code)
    if (fault.kind === 'doubling') make()
    const meeting = make()
    if (fault.kind === 'forgetting') store.changeMeeting(meeting, { deleted: true })
    setResponseStatus(event, 201)
    return show(meeting)
  }))

  router.delete('/v2/meetings/:key', call(async (event) => {
    const meeting = store.meetingsOf(requireAccount(event).number).find(({ key }) => key === getRouterParam(event, 'key'))
    if (!meeting) throw new Refusal(404, 'no_meeting', 'there is no such meeting')
    store.changeMeeting(meeting, { deleted: true })
    return { deleted: true }
  }))

  return router

  function call(handler: Handler) {
    return defineCall({ name: 'Quayside Video', log: store.log, atOnce: AT_ONCE, refusalBody: (problem, detail) => ({ problem, detail }) }, handler)
  }

  function requireAccount(event: H3Event): Account {
    const account = store.account(getHeader(event, 'quayside-account') ?? '')
    if (!account || account.client !== getHeader(event, 'quayside-client') || account.secret !== getHeader(event, 'quayside-secret'))
      throw new Refusal(401, 'credentials', 'account, client and secret do not belong together')
    return account
  }

  function showUser({ id, name, address, state, invitedUntil }: User) {
    return { id, name, address, state, ...(state === 'invited' ? { invited_until: invitedUntil } : {}) }
  }

  function show(meeting: Meeting) {
    const { account, deleted: _deleted, guestKey, hostKey, earlyMinutes, ...rest } = meeting
    return {
      ...rest, organized_by_main: store.account(account)?.users[0]?.id === rest.organizer, early_minutes: earlyMinutes, guest_link: `${origin()}/room/${guestKey}`, host_link: `${origin()}/room/${hostKey}`,
    }
  }
}

function seconds(): number {
  return Math.floor(Date.now() / 1000)
}
