import { setDates as declared } from '#shared/contract/acts/office'
import { setDates } from '../../acts/calendar'

export default serveAct(declared, setDates)
