import { type Arena, pause, type CampaignRecord } from './arena'
import type { Random } from './random'

/** What goes wrong around a campaign: services that misbehave and processes that are killed, at random. */

const roomFaults = ['slow', 'silent', 'failing', 'refusing', 'losing', 'garbled', 'doubling', 'forgetting', 'quota', 'none', 'none'] as const
const payFaults = ['slow', 'silent', 'failing', 'losing', 'garbled', 'doubling', 'forgetting', 'none', 'none'] as const
/** A server that refuses an address for good is no fault to get over. */
const mailFaults = ['slow', 'failing', 'losing', 'none', 'none'] as const

const faultsOf = { lantern: roomFaults, quayside: roomFaults, pigeonhole: mailFaults, tollgate: payFaults }

export async function setFault(url: string, kind: string, left: number | null = null, seconds = 2): Promise<void> {
  await fetch(`${url}/faults`, {
    method: 'POST', redirect: 'manual', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ kind, left, seconds }),
  })
}

export async function misbehave({ standIns }: Arena, record: CampaignRecord, random: Random, isOver: () => boolean): Promise<void> {
  while (!isOver()) {
    const service = random.pick(['lantern', 'quayside', 'lantern', 'quayside', 'pigeonhole', 'tollgate'] as const)
    const kind = random.pick<string>(faultsOf[service])
    // Some are slower than anybody waits for.
    await setFault(standIns[service], kind, 1 + random.below(6), 1 + random.below(8))
    if (kind !== 'none') record.faults += 1
    await pause(300 + random.below(1500))
  }
  for (const url of Object.values(standIns)) await setFault(url, 'none')
}

export async function kill({ apps }: Arena, record: CampaignRecord, random: Random, most: number, isOver: () => boolean): Promise<void> {
  while (record.kills < most || !isOver()) {
    await pause(500 + random.below(2500))
    if (record.kills >= most) continue
    await random.pick(apps).killAndRestart()
    record.kills += 1
  }
}

/** Remembers what the queue holds, for the search for secrets in it. */
export async function watchQueue({ context }: Arena, record: CampaignRecord, isOver: () => boolean): Promise<void> {
  while (!isOver()) {
    const { rows } = await context.pool.query<{ text: string }>('select row_to_json(job)::text as text from graphile_worker._private_jobs as job')
    for (const { text } of rows) record.jobs.add(text)
    await pause(700)
  }
}
