import { getQuery } from 'h3'
import { calendarKey, calendarSchema } from '../../../../core/hours/plan'
import { DAY } from '../../../../core/time/civil'
import { holidayDates } from '../../../hours'
import { defineDeskCall } from '../../../http/member'
import { check } from '../../../http/problem'

/** The holidays of one calendar for this year and the next. */
export default defineDeskCall('seeEventTypes', async (event, context) => {
  const { country, region } = getQuery(event)
  const calendar = check(calendarSchema, { country, region: region || null })
  return holidayDates([calendar], context.now(), context.now() + 366 * DAY)[calendarKey(calendar)] ?? []
})
