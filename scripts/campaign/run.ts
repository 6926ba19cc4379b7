import { eq } from 'drizzle-orm'
import { roomOptionsSchema } from '../../core/rooms/options'
import type { Context } from '../../server/context'
import { workspaces } from '../../server/database/schema'
import { addOwnMessage } from '../../server/messages'
import { sweepRooms } from '../../server/rooms'
import { connectTollgate, price } from '../../tests/support/payments'
import { connectLantern, makeWorkspace, type TestWorkspace } from '../../tests/support/workspace'
import { connectQuayside, makeQuaysideAccount } from '../../tests/support/quayside'
import type { Arena, CampaignRecord } from './arena'
import { kill, misbehave, watchQueue } from './chaos'
import { client, owner, passTime } from './clients'
import { randomFrom } from './random'
import { type Finding, settle, verify } from './verify'

/** A campaign: many clients over two processes while services misbehave and processes are killed, and what holds in the end. */

const CLIENTS = 10

export interface CampaignOptions {
  seed: number
  bookings: number
  kills: number
}

/** Two hosts with accounts of their own, two without, an account of the workspace, and a meeting server for one event type. */
export async function prepare(context: Context, { lantern, quayside }: Pick<Arena['standIns'], 'lantern' | 'quayside'>): Promise<TestWorkspace> {
  const places = [{ key: 'video', kind: 'video' as const, label: '', detail: '' }]
  // Whatever is booked a while ago is reminded of.
  const reminders = [{ kind: 'before' as const, minutes: 30 * 1440 }]
  const settings = { places, durations: [30], startEveryMinutes: 30, bufferAfterMinutes: 0, reminders }
  const room = (ways: ('own' | 'workspace' | 'pattern')[]) => ({ ways, link: '', options: roomOptionsSchema.parse({}) })
  const workspace = await makeWorkspace(context, {
    hosts: 4, zone: 'UTC', hours: 'Mo-Su 06:00-22:00',
    eventTypes: [
      { slug: 'talk', settings: { ...settings, room: room(['own', 'workspace', 'pattern']) } },
      { slug: 'strict', settings: { ...settings, room: room(['own', 'workspace']) } },
      { slug: 'group', settings: { ...settings, seats: 3, durations: [60], startEveryMinutes: 60, room: room(['own', 'workspace']) } },
      { slug: 'asked', settings: { ...settings, approval: true, room: room(['workspace']) } },
      { slug: 'paid', settings: { ...settings, price: price(), room: room(['own', 'workspace', 'pattern']) } },
    ],
  })
  await context.db.update(workspaces).set({ roomPattern: `${lantern}/pattern-{room}`, quietHours: null }).where(eq(workspaces.id, workspace.id))
  for (const index of [0, 1]) await connectLantern(context, workspace.id, workspace.hosts[index]?.id ?? '', index)
  const users = workspace.hosts.slice(1, 3).map(({ email }) => ({ name: email, address: email }))
  await connectQuayside(context, workspace, await makeQuaysideAccount(quayside, users))
  await connectTollgate(context, workspace)
  const by = { workspaceId: workspace.id, name: 'Test Owner' }
  for (const [way, moment] of [['mail', 'booked'], ['phone', 'booked'], ['phone', 'moved'], ['phone', 'cancelled']] as const)
    await addOwnMessage(context, by, null, { name: `By ${way}`, moment: { kind: 'on', occasion: moment }, by: way, to: ['client'] })
  const early = { kind: 'before' as const, minutes: 30 * 1440 }
  await addOwnMessage(context, by, null, { name: 'Early', moment: early, by: 'phone', to: ['client'] })
  return workspace
}

export interface CampaignOutcome {
  record: CampaignRecord
  findings: Finding[]
}

export async function runCampaign(arena: Arena, { seed, bookings, kills }: CampaignOptions): Promise<CampaignOutcome> {
  const record: CampaignRecord = {
    booked: 0, refused: 0, cancelled: 0, moved: 0, invited: 0, handedOver: 0, reminded: 0, approved: 0, declined: 0,
    paid: 0, texted: 0, ownMessages: 0,
    byHand: 0, kills: 0, faults: 0, repeated: 0, leftToPeople: 0,
    unconfirmed: [], jobs: new Set(),
  }
  let isOver = false
  const random = (place: number) => randomFrom(seed * 1000 + place)
  const beside = [
    misbehave(arena, record, random(1), () => isOver),
    kill(arena, record, random(2), kills, () => isOver),
    watchQueue(arena, record, () => isOver),
    owner(arena, record, random(3), () => isOver),
    passTime(arena, random(4), () => isOver),
  ]
  await Promise.all(Array.from({ length: CLIENTS }, (_, index) => client(arena, record, random(10 + index), bookings, `Client ${index}`)))
  // As many kills as were asked for, however quickly all was booked.
  while (record.kills < kills) await new Promise(resolve => setTimeout(resolve, 200))
  isOver = true
  await Promise.all(beside)
  // The night's sweep, which mends what no answer has told of.
  const isSettled = await settle(arena)
  const swept = await sweepRooms(arena.context) ?? []
  await settle(arena)
  const findings = await verify(arena, record)
  // Only what a service has done twice or lost may be left to it.
  const expected = ['doubled', 'notInStep', ...arena.sharesStandIns ? ['unknown'] : []]
  const unexpected = swept.filter(({ kind }) => !expected.includes(kind)).map(finding => JSON.stringify(finding))
  if (unexpected.length > 0) findings.push({ what: 'the sweep had to mend', count: unexpected.length, examples: unexpected.slice(0, 3) })
  if (!isSettled) findings.push({ what: 'it did not settle', count: 1, examples: [] })
  return { record, findings }
}

/** What was done and found, as a table. */
export function describeCampaign({ record, findings }: CampaignOutcome): string {
  const { unconfirmed, jobs, ...counts } = record
  const rows: [string, number][] = [...Object.entries(counts), ['requests read before approval', unconfirmed.length], ['jobs seen', jobs.size]]
  return [
    ...findings.length === 0 ? ['Everything holds'] : findings.map(({ what, count, examples }) => `${String(count).padStart(8)}  ${what}: ${examples.join('; ')}`),
    '',
    ...rows.map(([name, count]) => `${String(count).padStart(8)}  ${name}`),
  ].join('\n')
}
