import { takeBackException as declared } from '#shared/contract/acts/student'
import { takeBackException } from '../../../acts/exceptions'

export default serveAct(declared, takeBackException)
