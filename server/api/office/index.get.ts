import { readOfficeToday } from '#shared/contract/views/office'
import { readOfficeTodayView } from '../../views/office'

export default serveLongView(readOfficeToday, readOfficeTodayView)
