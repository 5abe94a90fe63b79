import { takeBackException as declared } from '#shared/contract/acts/student'
import { takeBackException } from '../../../acts/requirements'

export default serveAct(declared, takeBackException)
