import { readWeek } from '#shared/contract/views/student'
import { readWeekView } from '../../../views/week'

export default serveView(readWeek, readWeekView)
