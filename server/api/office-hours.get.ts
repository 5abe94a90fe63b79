import { readHours } from '#shared/contract/views/advising'
import { readHoursView } from '../views/advising'

export default serveView(readHours, readHoursView)
