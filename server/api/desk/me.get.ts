import { defineDeskCall } from '../../http/member'

export default defineDeskCall('seeSessions', async (_event, _context, member) => member)
