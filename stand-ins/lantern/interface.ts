import { createRouter, getHeader, getRouterParam, type H3Event, readBody, type Router, setResponseStatus } from 'h3'
import { z } from 'zod'
import { defineCall, type Handler, parse, Refusal } from '../shared/calls'
import { type Account, type LanternStore, type Room, TOKEN_SECONDS } from './store'

/** The HTTP interface of Lantern Rooms, as docs/stand-ins.md describes it. */

export interface Registered {
  clientId: string
  clientSecret: string
}

const tokenRequest = z.discriminatedUnion('grant', [
  z.object({ grant: z.literal('code'), code: z.string(), redirect_uri: z.string(), client_id: z.string(), client_secret: z.string() }),
  z.object({ grant: z.literal('refresh'), refresh_token: z.string(), client_id: z.string(), client_secret: z.string() }),
])

const personSchema = z.object({ name: z.string().max(200), email: z.string().max(300) })

const roomRequest = z.object({
  reference: z.string().min(1).max(200),
  title: z.string().max(500),
  starts_at: z.iso.datetime(),
  ends_at: z.iso.datetime(),
  entry: z.enum(['host', 'open']),
  mute_on_entry: z.boolean().default(false),
  hosts: z.array(personSchema).max(50).default([]),
  attendees: z.array(personSchema).max(1000).default([]),
})

const roomChange = z.object({
  title: roomRequest.shape.title,
  starts_at: roomRequest.shape.starts_at,
  ends_at: roomRequest.shape.ends_at,
  entry: roomRequest.shape.entry,
  mute_on_entry: z.boolean(),
  hosts: z.array(personSchema).max(50),
  attendees: z.array(personSchema).max(1000),
}).partial()

/** Calls at once, of all clients together. */
const AT_ONCE = 10

export function lanternInterface(store: LanternStore, registered: Registered, origin: () => string): Router {
  const router = createRouter()

  router.post('/api/tokens', call(async (event) => {
    const request = parse(tokenRequest, await readBody(event))
    if (request.client_id !== registered.clientId || request.client_secret !== registered.clientSecret) {
      throw new Refusal(401, 'unknown_client', 'this client is not registered')
    }
    const now = seconds()
    const grant =
      request.grant === 'code' ? store.takeCode(request.code, request.redirect_uri, now) : store.renew(request.refresh_token, now)
    const account = store.accounts.find(candidate => candidate.id === grant?.accountId)
    if (!grant || !account) throw new Refusal(401, 'no_consent', 'the consent is used up or was withdrawn')
    return {
      access_token: grant.accessToken,
      refresh_token: grant.refreshToken,
      expires_in: TOKEN_SECONDS,
      account: { email: account.email, name: account.name },
    }
  }))

  router.get('/api/account', call(async (event) => {
    const account = requireAccount(event, false)
    return {
      account: { email: account.email, name: account.name },
      approved: account.approval !== 'needed',
      plan: { rooms: account.quota, rooms_used: store.roomsOf(account.id).length, minutes: 480, people: 50 },
    }
  }))

  router.post('/api/rooms', call(async (event, fault) => {
    const account = requireAccount(event)
    const request = parse(roomRequest, await readBody(event))
    const existing = fault.kind === 'doubling' ? null : store.roomOfReference(account.id, request.reference)
    if (existing) return show(existing)
    if (fault.kind === 'quota' || store.roomsOf(account.id).length >= account.quota)
      throw new Refusal(403, 'quota', `this account may have ${account.quota} rooms`)
    const make = () => store.addRoom(account.id, {
      reference: request.reference, title: request.title, startsAt: request.starts_at, endsAt: request.ends_at, entry: request.entry,
      muted: request.mute_on_entry, hosts: request.hosts, attendees: request.attendees,
    }, new Date().toISOString())
    if (fault.kind === 'doubling') make()
    const room = make()
    if (fault.kind === 'forgetting') store.changeRoom(room, { withdrawn: true })
    setResponseStatus(event, 201)
    return show(room)
  }))

  router.get('/api/rooms', call(async (event) => {
    const account = requireAccount(event)
    return { rooms: store.roomsOf(account.id).map(show) }
  }))

  router.get('/api/rooms/:id', call(async event => show(requireRoom(event))))

  router.patch('/api/rooms/:id', call(async (event) => {
    const room = requireRoom(event)
    const change = parse(roomChange, await readBody(event))
    store.changeRoom(room, {
      title: change.title ?? room.title,
      startsAt: change.starts_at ?? room.startsAt,
      endsAt: change.ends_at ?? room.endsAt,
      entry: change.entry ?? room.entry,
      muted: change.mute_on_entry ?? room.muted,
      hosts: change.hosts ?? room.hosts,
      attendees: change.attendees ?? room.attendees,
    })
    return show(room)
  }))

  router.delete('/api/rooms/:id', call(async (event) => {
    store.changeRoom(requireRoom(event), { withdrawn: true })
    return { withdrawn: true }
  }))

  return router

  function call(handler: Handler) {
    return defineCall({ name: 'Lantern Rooms', log: store.log, atOnce: AT_ONCE, refusalBody: (code, message) => ({ error: { code, message } }) }, handler)
  }

  function requireAccount(event: H3Event, approved = true): Account {
    const token = /^Bearer (.+)$/.exec(getHeader(event, 'authorization') ?? '')?.[1] ?? ''
    const account = store.accountOfToken(token, seconds())
    if (!account) throw new Refusal(401, 'invalid_token', 'the token is not valid or its consent was withdrawn')
    if (approved && account.approval === 'needed')
      throw new Refusal(403, 'approval_needed', 'the owner of the organisation has not approved this application yet')
    return account
  }

  function requireRoom(event: H3Event): Room {
    const account = requireAccount(event)
    const room = store.room(getRouterParam(event, 'id') ?? '')
    if (!room || room.withdrawn || room.accountId !== account.id) throw new Refusal(404, 'no_room', 'there is no such room')
    return room
  }

  function show(room: Room) {
    return {
      id: room.id,
      reference: room.reference,
      title: room.title,
      starts_at: room.startsAt,
      ends_at: room.endsAt,
      entry: room.entry,
      mute_on_entry: room.muted,
      hosts: room.hosts,
      attendees: room.attendees,
      number: room.number,
      passcode: room.passcode,
      join_url: `${origin()}/room/${room.joinKey}`,
      host_url: `${origin()}/room/${room.hostKey}`,
    }
  }
}

function seconds(): number {
  return Math.floor(Date.now() / 1000)
}
