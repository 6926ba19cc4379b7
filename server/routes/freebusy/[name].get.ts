import { readFreeBusy } from '../../calendars'
import { defineCall } from '../../http/define'
import { answerPublished } from '../../http/published'

export default defineCall('GET /freebusy/{name}', (event, context) => answerPublished(event, context, '.ifb', readFreeBusy))
