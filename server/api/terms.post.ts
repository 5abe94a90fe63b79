import { addTerm as declared } from '#shared/contract/acts/office'
import { addTerm } from '../acts/calendar'

export default serveAct(declared, addTerm)
