import { setCalendar as declared } from '#shared/contract/acts/office'
import { setCalendar } from '../../acts/calendar'

export default serveAct(declared, setCalendar)
