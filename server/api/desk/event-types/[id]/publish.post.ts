import { z } from 'zod'
import { settingsSchema } from '../../../../../core/event-type/settings'
import { titleFault } from '../../../../../core/messages'
import { publishSettings } from '../../../../event-types'
import { defineDeskCall } from '../../../../http/member'
import { idParam, invalid, notFound, Problem, readBodyOf } from '../../../../http/problem'

export const publishSchema = z.strictObject({
  basedOn: z.int().min(1),
  state: z.enum(['draft', 'open', 'closed']),
  settings: settingsSchema,
})

export default defineDeskCall('changeEventTypes', async (event, context, member) => {
  const { basedOn, state, settings } = await readBodyOf(event, publishSchema)
  const fault = titleFault(settings.calendarTitle)
  if (fault) throw invalid(422, [{ path: 'settings.calendarTitle', message: fault }])
  const outcome = await publishSettings(context, member.workspaceId, idParam(event, 'id'), basedOn, settings, state)
  if (outcome.kind === 'notFound') throw notFound()
  if (outcome.kind === 'changedMeanwhile') {
    throw new Problem(409, 'Changed meanwhile', 'Somebody else has published this event type since you opened it. Nothing of theirs was overwritten.', { version: outcome.version })
  }
  return { version: outcome.version }
})
