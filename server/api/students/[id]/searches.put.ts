import { keepSearch as declared } from '#shared/contract/acts/student'
import { keepSearch } from '../../../acts/week'

export default serveAct(declared, keepSearch)
