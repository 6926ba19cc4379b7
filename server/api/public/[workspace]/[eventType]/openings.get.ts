import { getQuery } from 'h3'
import { chairToPick } from '../../../../event-types'
import { defineCall } from '../../../../http/define'
import { answerOpenings } from '../../../../http/openings'
import { check, refuse } from '../../../../http/problem'
import { eventTypeOfPath, isPreview } from '../../../../http/public'
import { openingsQuerySchema } from '../../../../http/requests'

export default defineCall('GET /api/public/{workspace}/{eventType}/openings', async (event, context) => {
  const { snapshot, eventType } = await eventTypeOfPath(event, context)
  const query = check(openingsQuerySchema, getQuery(event))
  const { durations, mostPeople } = eventType.settings
  if (query.duration !== undefined && !durations.includes(query.duration)) throw refuse(400, 'duration', 'durationNotOffered', { durations })
  if (query.people !== undefined && query.people > mostPeople) throw refuse(400, 'people', 'tooManyPeople', { most: mostPeople })
  const chosen = query.host === undefined ? null : chairToPick(eventType, query.host, true)
  if (query.host !== undefined && !chosen) throw refuse(400, 'host', 'hostNotOffered', {})
  // What a member has drafted is theirs alone and changes with every key.
  return answerOpenings(context, { snapshot, eventType, chosen, query, isPublished: !isPreview(event) })
})
