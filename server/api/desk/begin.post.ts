import { z } from 'zod'
import { zoneName } from '../../../core/openings'
import { parseClock, weekdays } from '../../../core/time/civil'
import { beginWith } from '../../event-types'
import { defineDeskCall } from '../../http/member'
import { notFound, readBodyOf } from '../../http/problem'

export const beginSchema = z.strictObject({
  days: z.array(z.enum(weekdays)).min(1, 'Choose at least one day').max(7),
  from: z.string().refine(text => parseClock(text) !== null, 'Write a time of day such as 09:00'),
  to: z.string().refine(text => parseClock(text, true) !== null, 'Write a time of day such as 17:00'),
  timeZone: zoneName,
}).refine(({ from, to }) => (parseClock(to, true) ?? 1440) > (parseClock(from) ?? 0), { path: ['to'], message: 'The day ends before it begins' })

export default defineDeskCall('changeEventTypes', async (event, context, member) => {
  const begun = await beginWith(context, member, await readBodyOf(event, beginSchema))
  if (!begun) throw notFound('You host nothing in this workspace, so there are no hours to set.')
  return begun
})
