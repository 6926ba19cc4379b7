import { getQuery } from 'h3'
import { calendarKey } from '../../../../core/hours/plan'
import { DAY } from '../../../../core/time/civil'
import { holidayDates } from '../../../hosts-time'
import { defineDeskCall } from '../../../http/member'
import { check } from '../../../http/problem'
import { holidaysQuerySchema } from '../../../http/requests'

/** The holidays of one calendar for this year and the next. */
export default defineDeskCall('GET /api/desk/holidays/dates', async (event, context) => {
  const calendar = check(holidaysQuerySchema, getQuery(event))
  return holidayDates([calendar], context.now(), context.now() + 366 * DAY)[calendarKey(calendar)] ?? []
})
