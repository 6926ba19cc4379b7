import { LRUCache } from 'lru-cache'
import { dateToDays } from '../../core/time/civil'
import { zoneOf } from '../../core/time/zone'
import type { ChosenHost } from '../../core/rotation/chairs'
import type { PublicOpening } from '../../core/views/client'
import { publicOpening } from '../booking'
import type { Context } from '../context'
import { type EventType, findOpenings, stampOf, type WorkspaceSnapshot } from '../event-types'
import { JsonText } from '../json-text'

/** What is asked of an event type; dates of `timeZone`, inclusive. */
export interface AskedOpenings {
  snapshot: WorkspaceSnapshot
  eventType: EventType
  chosen: ChosenHost | null
  query: { from: string, to: string, timeZone: string, duration?: number | undefined, people?: number | undefined }
  /** Whether it is one of the workspace’s, as it is published. */
  isPublished: boolean
}

/** Answers that are asked for again before anything changes: a page that many look at, or one that looks again. */
const remembered = new LRUCache<string, JsonText<{ openings: PublicOpening[] }>>({
  maxSize: 20_000_000,
  sizeCalculation: answer => answer.text.length + 1,
})

export async function answerOpenings(
  context: Context, { snapshot, eventType, chosen, query, isPublished }: AskedOpenings,
): Promise<JsonText<{ openings: PublicOpening[] }>> {
  const { from, to, timeZone, duration, people } = query
  const now = context.now()
  const key = JSON.stringify([stampOf(snapshot, now), eventType.id, from, to, timeZone, duration, people, chosen])
  const known = isPublished ? remembered.get(key) : undefined
  if (known) return known
  const zone = zoneOf(timeZone)
  const openings = await findOpenings(context, eventType, {
    now, from: zone.startOfDay(dateToDays(from)), to: zone.startOfDay(dateToDays(to) + 1), chosen,
    ...(duration === undefined ? {} : { durationMinutes: duration }),
    ...(people === undefined ? {} : { people }),
  }, snapshot.stated)
  const answer = JsonText.of({ openings: openings.map(publicOpening) })
  if (isPublished) remembered.set(key, answer)
  return answer
}
