import {
  createRouter,
  defineEventHandler,
  getHeader,
  getRouterParam,
  type H3Event,
  readBody,
  readRawBody,
  type Router,
  setResponseStatus,
} from 'h3'
import { z } from 'zod'
import { takeFault } from '../shared/faults'
import { type Account, type LanternStore, QUOTA, type Room, TOKEN_SECONDS } from './store'

/** The HTTP interface of Lantern Rooms, as docs/stand-ins.md describes it. */

class Refusal extends Error {
  constructor(readonly status: number, readonly code: string, message: string) {
    super(message)
  }
}

export interface Registered {
  clientId: string
  clientSecret: string
}

const tokenRequest = z.discriminatedUnion('grant', [
  z.object({ grant: z.literal('code'), code: z.string(), redirect_uri: z.string(), client_id: z.string(), client_secret: z.string() }),
  z.object({ grant: z.literal('refresh'), refresh_token: z.string(), client_id: z.string(), client_secret: z.string() }),
])

const roomRequest = z.object({
  reference: z.string().min(1).max(200),
  title: z.string().max(500),
  starts_at: z.iso.datetime(),
  ends_at: z.iso.datetime(),
  entry: z.enum(['host', 'open']),
})

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

  router.post('/api/rooms', call(async (event) => {
    const account = requireAccount(event)
    const request = parse(roomRequest, await readBody(event))
    if (store.roomsOf(account.id).length >= QUOTA) throw new Refusal(403, 'quota', `an account may have ${QUOTA} rooms`)
    const { room, isNew } = store.makeRoom(account.id, {
      reference: request.reference, title: request.title, startsAt: request.starts_at, endsAt: request.ends_at, entry: request.entry,
    }, new Date().toISOString())
    setResponseStatus(event, isNew ? 201 : 200)
    return show(room)
  }))

  router.get('/api/rooms', call(async (event) => {
    const account = requireAccount(event)
    return { rooms: store.roomsOf(account.id).map(show) }
  }))

  router.get('/api/rooms/:id', call(async event => show(requireRoom(event))))

  router.patch('/api/rooms/:id', call(async (event) => {
    const room = requireRoom(event)
    const change = parse(roomRequest.omit({ reference: true }).partial(), await readBody(event))
    store.changeRoom(room, {
      ...(change.title === undefined ? {} : { title: change.title }),
      ...(change.starts_at === undefined ? {} : { startsAt: change.starts_at }),
      ...(change.ends_at === undefined ? {} : { endsAt: change.ends_at }),
      ...(change.entry === undefined ? {} : { entry: change.entry }),
    })
    return show(room)
  }))

  router.delete('/api/rooms/:id', call(async (event) => {
    store.changeRoom(requireRoom(event), { withdrawn: true })
    return { withdrawn: true }
  }))

  return router

  /** Injects the active fault into each call, counts it, and answers refusals. */
  function call(handler: (event: H3Event) => Promise<unknown>) {
    return defineEventHandler(async (event) => {
      const fault = takeFault(store)
      try {
        if (fault.kind === 'slow') {
          // What was asked is known from the start, and done in the end even if nobody waits for the answer any more.
          if (event.method !== 'GET') await readRawBody(event)
          await new Promise(resolve => setTimeout(resolve, fault.seconds * 1000))
        }
        if (fault.kind === 'failing') throw new Refusal(503, 'unavailable', 'Lantern Rooms is down for a moment')
        if (fault.kind === 'refusing') throw new Refusal(403, 'refused', 'this account may not do that')
        if (fault.kind === 'garbled') return { rooms: 'perhaps', id: 7, join_url: 'javascript:alert(1)' }
        const answer = await handler(event)
        if (fault.kind === 'losing') {
          note(event, 0)
          event.node.req.socket.destroy()
          return
        }
        note(event, event.node.res.statusCode)
        return answer
      } catch (error) {
        const refusal = error instanceof Refusal ? error : new Refusal(500, 'broken', String(error))
        setResponseStatus(event, refusal.status)
        note(event, refusal.status)
        return { error: { code: refusal.code, message: refusal.message } }
      }
    })
  }

  function note(event: H3Event, status: number): void {
    store.calls.push({ at: new Date().toISOString(), call: `${event.method} ${event.path}`, status })
    if (store.calls.length > 200) store.calls.shift()
  }

  function requireAccount(event: H3Event): Account {
    const token = /^Bearer (.+)$/.exec(getHeader(event, 'authorization') ?? '')?.[1] ?? ''
    const account = store.accountOfToken(token, seconds())
    if (!account) throw new Refusal(401, 'invalid_token', 'the token is not valid or its consent was withdrawn')
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
      number: room.number,
      passcode: room.passcode,
      join_url: `${origin()}/room/${room.joinKey}`,
      host_url: `${origin()}/room/${room.hostKey}`,
    }
  }
}

function parse<Schema extends z.ZodType>(schema: Schema, value: unknown): z.output<Schema> {
  const result = schema.safeParse(value)
  if (result.success) return result.data
  const issue = result.error.issues[0]
  throw new Refusal(422, 'invalid', `${issue?.path.join('.') ?? 'body'}: ${issue?.message ?? 'does not fit'}`)
}

function seconds(): number {
  return Math.floor(Date.now() / 1000)
}
