import { holidayCountries } from '../../../hosts-time'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('seeEventTypes', async () => holidayCountries())
