import { z } from 'zod'
import type { Credentials, RoomRequest, ServiceUser, ServiceFaultKind, VideoService } from '..'
import { callService, differences, read, readCredentials, type ServiceRequest, webAddress } from '../../service/requests'

/** Quayside Video over its HTTP interface (docs/stand-ins.md). */

export const quaysideEnvironment = { QUAYSIDE_URL: z.url().optional() }

type QuaysideEnvironment = z.output<z.ZodObject<typeof quaysideEnvironment>>

/** What is typed in, and stored as it is. */
const storedSchema = z.object({ account: z.string(), client: z.string(), secret: z.string() })

const userSchema = z.object({
  id: z.string(),
  address: z.string(),
  state: z.enum(['active', 'invited']),
  invited_until: z.number().optional(),
})

const accountSchema = z.object({
  name: z.string(),
  main_user: userSchema.nullable(),
  plan: z.object({ meetings: z.number(), meetings_used: z.number(), minutes: z.number(), people: z.number() }),
})

const meetingSchema = z.object({
  key: z.string(),
  dial: z.string().max(100),
  code: z.string().max(100).nullable(),
  organizer: z.string(),
  organized_by_main: z.boolean(),
  guest_link: webAddress,
  host_link: webAddress,
})

const meetingListSchema = z.object({
  meetings: z.array(z.object({ key: z.string(), reference: z.string(), topic: z.string(), begin: z.number(), minutes: z.number() })),
})

const problemSchema = z.object({ problem: z.string(), detail: z.string() })
const missingSchema = z.object({ problem: z.enum(['no_meeting', 'no_user']) })
const removedSchema = z.union([z.object({ deleted: z.literal(true) }), z.object({ removed: z.literal(true) }), missingSchema])

const CALLS_AT_ONCE = 10

/** Null where the service has no address in the environment. */
export function createQuaysideVideo(environment: QuaysideEnvironment, timeoutSeconds: number): VideoService | null {
  const url = environment.QUAYSIDE_URL?.replace(/\/$/, '')
  return url === undefined ? null : quaysideVideo(url, timeoutSeconds)
}

function quaysideVideo(url: string, timeoutSeconds: number): VideoService {
  const put = async (credentials: Credentials, request: RoomRequest, mostSeconds?: number) => read(meetingSchema, await call(credentials, {
    method: 'PUT', path: `/v2/meetings/${encodeURIComponent(request.reference)}`, body: describe(request), mostSeconds,
  }))
  return {
    name: 'Quayside Video',
    owner: 'workspace',
    can: ['waitingRoom', 'openEntry', 'withoutPasscode', 'muting', 'cameras', 'earlyEntry'],
    callsAtOnce: CALLS_AT_ONCE,
    renewal: null,
    connection: {
      way: 'credentials',
      fields: [
        { key: 'account', label: 'Account number', isSecret: false },
        { key: 'client', label: 'Client number', isSecret: false },
        { key: 'secret', label: 'Secret', isSecret: true },
      ],
      tryCredentials: async (fields) => {
        const credentials = JSON.stringify(storedSchema.parse(fields))
        const { name } = await readAccount(credentials)
        return { credentials, label: `${name}, account ${fields['account']}`, email: null }
      },
    },
    users: {
      list: async (credentials) => {
        const [{ main_user: main }, answer] = await Promise.all([readAccount(credentials), call(credentials, { method: 'GET', path: '/v2/users' })])
        return read(z.object({ users: z.array(userSchema) }), answer).users.map(user => userFrom(user, user.id === main?.id))
      },
      invite: async (credentials, { name, email }) =>
        userFrom(read(userSchema, await call(credentials, { method: 'POST', path: '/v2/users', body: { name, address: email } })), false),
      withdraw: async (credentials, userId) => {
        read(removedSchema, await call(credentials, { method: 'DELETE', path: `/v2/users/${encodeURIComponent(userId)}`, accepted: [404] }))
      },
    },
    readAccount: async (credentials) => {
      const { plan } = await readAccount(credentials)
      return { waiting: false, plan: { rooms: plan.meetings, roomsUsed: plan.meetings_used, minutes: plan.minutes, people: plan.people } }
    },
    makeRoom: async (credentials, request, mostSeconds) => {
      const meeting = await put(credentials, request, mostSeconds)
      return {
        externalId: meeting.key, number: meeting.dial, passcode: meeting.code, joinUrl: meeting.guest_link, hostUrl: meeting.host_link,
      }
    },
    changeRoom: async (credentials, externalId, request) => {
      const found = await call(credentials, { method: 'GET', path: pathOf(externalId), accepted: [404] })
      if (missingSchema.safeParse(found).success) return 'gone'
      const { organizer, code, ...wanted } = describe(request)
      const meeting = read(meetingSchema, found)
      const isSame = Object.keys(differences(wanted, found)).length === 0 && (meeting.code !== null) === code
        && (organizer === null ? meeting.organized_by_main : meeting.organizer === organizer)
      if (isSame) return 'same'
      await put(credentials, request)
      return 'changed'
    },
    listRooms: async (credentials) => {
      const { meetings } = read(meetingListSchema, await call(credentials, { method: 'GET', path: '/v2/meetings' }))
      return meetings.map(({ key, reference, topic, begin, minutes }) =>
        ({ externalId: key, reference, title: topic, start: begin, end: begin + minutes * 60 }))
    },
    withdrawRoom: async (credentials, externalId) => {
      read(removedSchema, await call(credentials, { method: 'DELETE', path: pathOf(externalId), accepted: [404] }))
    },
  }

  async function readAccount(credentials: Credentials) {
    return read(accountSchema, await call(credentials, { method: 'GET', path: '/v2/account' }))
  }

  function call(credentials: Credentials, request: ServiceRequest): Promise<unknown> {
    const { account, client, secret } = readCredentials(storedSchema, credentials)
    const headers = { 'quayside-account': header(account), 'quayside-client': header(client), 'quayside-secret': header(secret) }
    return callService({ url, timeoutSeconds, readRefusal, faultKinds }, { ...request, headers })
  }
}

const pathOf = (externalId: string) => `/v2/meetings/${encodeURIComponent(externalId)}`

/** Whatever is typed in, only what a header may hold is sent. */
const header = (text: string) => text.replace(/[^\x21-\x7e]/g, '')

function describe({ title, start, end, options, hosts, attendees, user }: RoomRequest) {
  return {
    topic: title,
    begin: start,
    minutes: Math.max(1, Math.round((end - start) / 60)),
    organizer: user,
    lobby: options.entry === 'host',
    code: options.passcode,
    muted: options.muted,
    cameras: { host: options.cameras.host, guests: options.cameras.clients },
    early_minutes: options.earlyMinutes,
    participants: [
      ...hosts.map(({ name, email }) => ({ name, address: email, part: 'host' })),
      ...attendees.map(({ name, email }) => ({ name, address: email, part: 'guest' })),
    ],
  }
}

function userFrom({ id, address, state, invited_until: until }: z.infer<typeof userSchema>, isMain: boolean): ServiceUser {
  return { id, email: address, isMain, invitedUntil: state === 'invited' ? until ?? 0 : null }
}

function readRefusal(body: unknown): { code: string, message: string } {
  const problem = problemSchema.safeParse(body)
  return problem.success ? { code: problem.data.problem, message: problem.data.detail } : { code: '', message: '' }
}

const faultKinds: Record<string, ServiceFaultKind> = { credentials: 'accessLost', quota: 'accountRefused', refused: 'accountRefused' }
