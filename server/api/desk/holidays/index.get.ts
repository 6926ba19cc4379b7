import { holidayCountries } from '../../../hosts-time'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('GET /api/desk/holidays', async () => holidayCountries())
