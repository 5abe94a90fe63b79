import { askPayback as declared } from '#shared/contract/acts/student'
import { askPayback } from '../../../acts/money'

export default serveAct(declared, askPayback)
