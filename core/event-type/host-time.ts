import { z } from 'zod'
import { type EngineSession, engineSessionSchema } from '../openings/engine-query'
import { hoursPlanSchema } from '../openings/schema'
import { union } from '../time/intervals'

const hostPlanSchema = z.strictObject({
  id: z.string(),
  /** The plan that applies where an event type names no other. */
  isDefault: z.boolean(),
  /** As the engine takes it, holidays included. */
  plan: hoursPlanSchema,
})
export type HostPlan = z.infer<typeof hostPlanSchema>

/** Time that one of a host's calendars takes, as far as the same hold words stand in the titles of its entries. */
const takenSchema = z.strictObject({
  /** The calendar's name. */
  calendar: z.string(),
  /** Those of the asked hold words that the entries' titles hold. */
  holds: z.array(z.string()),
  /** Whether the entries are of whole days. */
  isWholeDay: z.boolean(),
  entries: z.int(),
  /** Starts and ends one after another, ascending, in seconds. */
  times: z.array(z.number()),
})
export type TakenTime = z.infer<typeof takenSchema>

/** What is known of a host's time, whichever event type asks: all hours plans, and what is taken. */
export const hostTimeSchema = z.strictObject({
  id: z.string(),
  plans: z.array(hostPlanSchema),
  /** Open at all times but the days on which the host is away; null where there are none. */
  away: hoursPlanSchema.nullable(),
  taken: z.array(takenSchema),
  sessions: z.array(engineSessionSchema),
})
export type HostTime = z.infer<typeof hostTimeSchema>

/**
 * A session as it is sent, in few characters, since a large team has tens of thousands of them: seconds from the start of the
 * one before it (at first, from 1970), seconds that it lasts, minutes kept free before and after, seats taken; and its id, where
 * it belongs to the event type that asks. The times that calendars take are sent as seconds from each to the next, too.
 */
const sentSessionSchema = z.tuple([z.number(), z.number(), z.number(), z.number(), z.number()]).rest(z.string())
export const sentHostTimeSchema = hostTimeSchema.extend({ sessions: z.array(sentSessionSchema) })
export type SentHostTime = z.infer<typeof sentHostTimeSchema>

export function sendHostTime(time: readonly HostTime[]): SentHostTime[] {
  return time.map(host => ({
    ...host,
    taken: host.taken.map(part => ({ ...part, times: part.times.map((at, index, times) => at - (times[index - 1] ?? 0)) })),
    sessions: host.sessions.map(({ id, start, end, bufferBeforeMinutes, bufferAfterMinutes, sameEventType, seatsTaken }, index) => [
      start - (host.sessions[index - 1]?.start ?? 0), end - start, bufferBeforeMinutes, bufferAfterMinutes, seatsTaken,
      ...(sameEventType ? [id] : []),
    ]),
  }))
}

export function receiveHostTime(sent: readonly SentHostTime[]): HostTime[] {
  return sent.map((host) => {
    let start = 0
    return {
      ...host,
      taken: host.taken.map((part) => {
        let at = 0
        return { ...part, times: part.times.map(step => (at += step)) }
      }),
      sessions: host.sessions.map(([step, seconds, bufferBeforeMinutes, bufferAfterMinutes, seatsTaken, id], index): EngineSession => {
        start += step
        return {
          id: id ?? `${host.id} ${index}`, start, end: start + seconds, bufferBeforeMinutes, bufferAfterMinutes,
          sameEventType: id !== undefined, seatsTaken,
        }
      }),
    }
  })
}

/** The host's plan that applies to an event type: the one it names, else the default one. */
export function planFor(
  host: HostTime,
  hours: { mode: string, hostPlans?: Readonly<Record<string, string>> | undefined },
): HostPlan | undefined {
  const named = hours.hostPlans?.[host.id]
  return host.plans.find(plan => plan.id === named) ?? host.plans.find(plan => plan.isDefault) ?? host.plans[0]
}

const busyTimes = new WeakMap<readonly TakenTime[], Map<string, readonly number[]>>()

/** When a host's calendars take their time, but for entries that hold one of some words: starts and ends, ascending, in seconds. */
export function busyOf({ taken }: Pick<HostTime, 'taken'>, holds: readonly string[]): readonly number[] {
  if (taken.length === 0) return []
  const key = holds.join('\n').toLowerCase()
  const known = busyTimes.get(taken) ?? new Map<string, readonly number[]>()
  let busy = known.get(key)
  if (!busy) {
    const freed = new Set(holds.map(word => word.toLowerCase()))
    busy = union(taken.filter(part => !part.holds.some(word => freed.has(word.toLowerCase()))).flatMap(({ times }) => times))
    known.set(key, busy)
    busyTimes.set(taken, known)
  }
  return busy
}
