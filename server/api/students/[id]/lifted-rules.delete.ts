import { takeBackLifted as declared } from '#shared/contract/acts/student'
import { takeBackLifted } from '../../../acts/lifted'

export default serveAct(declared, takeBackLifted)
