import { holidayCountries } from '../../../hours'
import { defineDeskCall } from '../../../http/member'

export default defineDeskCall('seeEventTypes', async () => holidayCountries())
