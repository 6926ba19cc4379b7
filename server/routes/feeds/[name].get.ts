import { readFeed } from '../../calendars'
import { defineCall } from '../../http/define'
import { answerPublished } from '../../http/published'

export default defineCall('GET /feeds/{name}', (event, context) => answerPublished(event, context, '.ics', readFeed))
