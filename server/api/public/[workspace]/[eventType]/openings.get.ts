import { LRUCache } from 'lru-cache'
import type { PublicOpening } from '../../../../../core/views/client'
import { JsonText } from '../../../../http/json-text'
import { getQuery } from 'h3'
import { dateToDays } from '../../../../../core/time/civil'
import { zoneOf } from '../../../../../core/time/zone'
import { publicOpening } from '../../../../booking'
import { chairToPick, findOpenings, stampOf } from '../../../../event-types'
import { defineCall } from '../../../../http/define'
import { check, refuse } from '../../../../http/problem'
import { eventTypeOfPath, isPreview } from '../../../../http/public'
import { openingsQuerySchema } from '../../../../http/requests'

/** Answers that are asked for again before anything changes: a page that many look at, or one that looks again. */
const remembered = new LRUCache<string, JsonText<{ openings: PublicOpening[] }>>({
  maxSize: 20_000_000,
  sizeCalculation: answer => answer.text.length + 1,
})

export default defineCall('GET /api/public/{workspace}/{eventType}/openings', async (event, context) => {
  const { snapshot, eventType } = await eventTypeOfPath(event, context)
  const query = check(openingsQuerySchema, getQuery(event))
  const [first, last] = [dateToDays(query.from), dateToDays(query.to)]
  if (query.duration !== undefined && !eventType.settings.durations.includes(query.duration)) {
    throw refuse(400, 'duration', 'durationNotOffered', { durations: eventType.settings.durations })
  }
  if (query.people !== undefined && query.people > eventType.settings.mostPeople)
    throw refuse(400, 'people', 'tooManyPeople', { most: eventType.settings.mostPeople })
  const chosen = query.host === undefined ? null : chairToPick(eventType, query.host, true)
  if (query.host !== undefined && !chosen) throw refuse(400, 'host', 'hostNotOffered', {})
  const now = context.now()
  const key = JSON.stringify([stampOf(snapshot, now), eventType.id, query])
  // What a member has drafted is theirs alone and changes with every key.
  const known = isPreview(event) ? undefined : remembered.get(key)
  if (known) return known
  const zone = zoneOf(query.timeZone)
  const openings = await findOpenings(context, eventType, {
    now,
    from: zone.startOfDay(first),
    to: zone.startOfDay(last + 1),
    ...(query.duration === undefined ? {} : { durationMinutes: query.duration }),
    chosen,
    ...(query.people === undefined ? {} : { people: query.people }),
  }, snapshot.stated)
  const answer = JsonText.of({ openings: openings.map(publicOpening) })
  if (!isPreview(event)) remembered.set(key, answer)
  return answer
})
