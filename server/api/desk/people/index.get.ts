import { defineDeskCall } from '../../../http/member'
import { viewPeople } from '../../../people'

export default defineDeskCall('GET /api/desk/people', (_event, context, member) => viewPeople(context, member))
