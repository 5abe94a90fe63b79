import { setDates as declared } from '#shared/contract/acts/office'
import { setDates } from '../../acts/office'

export default serveAct(declared, setDates)
