import { takeBackLifted as declared } from '#shared/contract/acts/student'
import { takeBackLifted } from '../../../acts/exceptions'

export default serveAct(declared, takeBackLifted)
