import { defineDeskCall } from '../../http/member'

export default defineDeskCall('GET /api/desk/me', async (_event, _context, member) => member)
